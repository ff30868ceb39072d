import { Box, Button, Typography } from '@mui/material';
import { useState } from 'react';
import { words } from '../api/client';
import type { FitReading, FitStep, FitWorkup, NextReading } from '../api/generated/schema';
import { readLength } from '../api/hooks';
import { same, sentence, useBench } from '../kit/bench';
import { Choice } from '../kit/Choice';
import { Fold } from '../kit/Fold';
import { PlainField } from '../kit/PlainField';
import { nothing, SignedLength } from './SignedLength';

interface Props {
  fit: FitWorkup;
  busy: boolean;
  onNote: (step: FitStep) => Promise<boolean>;
}

type Kind = FitReading['reads'];

const kinds: readonly (readonly [Kind, string])[] = [
  ['mouth_gap', 'Gap at B'],
  ['mouth_step', 'Step at B'],
  ['angle', 'Angle of a bend'],
  ['length', 'Length of a piece'],
  ['lines', 'Lines at a seam'],
  ['seam_gap', 'Gap at a seam'],
];

const clocks: readonly (readonly [string, string])[] = [
  ['0', 'at the top'],
  ['90', 'at the right'],
  ['180', 'underneath'],
  ['270', 'at the left'],
];

/** One finer reading: what, where, how much. */
export function Finer({ fit, busy, onNote }: Props) {
  const unit = useBench((bench) => bench.unit);
  const [kind, setKind] = useState<Kind>('mouth_gap');
  const [clock, setClock] = useState('0');
  const [at, setAt] = useState('0');
  const [value, setValue] = useState(nothing);
  const [problem, setProblem] = useState<string>();
  const seams = kind === 'lines' || kind === 'seam_gap';
  const pieces = fit.pieces.filter((piece) => (seams ? piece.seam : piece.piece.kind === 'tube'));
  const places: readonly (readonly [string, string])[] =
    kind === 'angle'
      ? fit.bends.map((bend, index) => [String(index), `bend ${bend.number}`] as const)
      : pieces.map((piece, index) => [String(index), seams ? `after ${piece.name}` : piece.name] as const);
  const mouth = kind === 'mouth_gap' || kind === 'mouth_step';
  const place = places.some(([key]) => key === at) ? at : (places[0]?.[0] ?? '');
  const reading = async (): Promise<FitReading> => {
    if (kind === 'angle') {
      const degrees = Number(value.text.replace(',', '.').replace(/\s*°$/, ''));
      if (value.text.trim() === '' || !Number.isFinite(degrees))
        throw new Error('Type a number, such as 44.5');
      const bend = fit.bends[Number(place)]?.bend ?? 0;
      return { reads: kind, bend, degrees };
    }
    const mm = (await readLength(value.text, unit)).mm * (value.way === 'more' ? 1 : -1);
    if (kind === 'mouth_gap' || kind === 'mouth_step') return { reads: kind, clock: Number(clock), mm };
    const piece = pieces[Number(place)]?.piece;
    if (!piece || kind === 'rough') throw new Error('There is no such piece');
    return { reads: kind, piece, mm };
  };
  /** Puts the reading that helps most into the fields, its figure still to be read. */
  const onTake = ({ reading }: NextReading) => {
    setKind(reading.reads);
    setValue(nothing());
    if (reading.reads === 'mouth_gap' || reading.reads === 'mouth_step') setClock(String(reading.clock));
    if (reading.reads === 'angle') {
      setAt(String(fit.bends.findIndex((bend) => bend.bend === reading.bend)));
    }
    if (reading.reads === 'length') {
      const tubes = fit.pieces.filter((piece) => piece.piece.kind === 'tube');
      setAt(String(tubes.findIndex((piece) => same(piece.piece, reading.piece))));
    }
  };
  const onAdd = async () => {
    setProblem(undefined);
    try {
      if (await onNote({ fit: 'read', reading: await reading() })) setValue(nothing());
    } catch (error) {
      setProblem(words(error));
    }
  };
  return (
    <Box sx={{ mt: 1.5 }}>
      <Fold name='Measure finer' aside='feeler, straight edge, gauge'>
        <Box sx={{ display: 'grid', gap: 1, mt: 0.5 }}>
          {fit.next && <Helps next={fit.next} onTake={onTake} />}
          <Box sx={{ display: 'grid', gridTemplateColumns: '1fr 1fr', gap: 1 }}>
            <Choice label='What' width='100%' value={kind} options={kinds} onChange={setKind} />
            {mouth ? (
              <Choice
                label='Where, seen from A'
                width='100%'
                value={clock}
                options={clocks}
                onChange={setClock}
              />
            ) : (
              <Choice label='Where' width='100%' value={place} options={places} onChange={setAt} />
            )}
          </Box>
          {kind === 'mouth_step' || kind === 'lines' ? (
            <SignedLength
              label='How much'
              unit={unit}
              value={value}
              ways={kind === 'lines' ? ['clockwise', 'anticlockwise'] : ['tube proud', 'tube below']}
              problem={problem}
              onChange={setValue}
            />
          ) : (
            <PlainField
              label={`How much, ${kind === 'angle' ? 'degrees' : unit}`}
              value={value.text}
              problem={problem}
              onChange={(text) => setValue({ text, way: 'more' })}
            />
          )}
          <Button variant='outlined' disabled={busy} onClick={() => void onAdd()}>
            Add this reading
          </Button>
        </Box>
      </Fold>
    </Box>
  );
}

/** The reading that helps most, and how much it leaves. */
function Helps({ next, onTake }: { next: NextReading; onTake: (next: NextReading) => void }) {
  const unit = useBench((bench) => bench.unit);
  return (
    <Box sx={{ display: 'flex', alignItems: 'center', justifyContent: 'space-between', gap: 1 }}>
      <Typography variant='body2'>
        <strong>Helps most:</strong> {sentence(next.words, unit)}: it leaves {Math.round(next.left * 100)} %
        of what is not known.
      </Typography>
      <Button
        variant='text'
        size='small'
        sx={{ whiteSpace: 'nowrap', flexShrink: 0 }}
        aria-label={`Take it: ${sentence(next.words, unit)}`}
        onClick={() => onTake(next)}
      >
        Take it
      </Button>
    </Box>
  );
}
