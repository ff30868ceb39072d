import { Box, Button, Typography } from '@mui/material';
import { useState } from 'react';
import { words } from '../api/client';
import type { FitReading, FitStep, FitWorkup, NextReading, Workup } from '../api/generated/schema';
import { readLength } from '../api/hooks';
import { InstrumentBar } from '../instruments/InstrumentBar';
import { instrumentOf } from '../instruments/instrumentOf';
import { useInstrument } from '../instruments/useInstrument';
import { sentence, useBench } from '../kit/bench';
import { Choice } from '../kit/Choice';
import { Fold } from '../kit/Fold';
import { PlainField } from '../kit/PlainField';
import { clocks, expectedOf, fieldOf, kinds, type Place, placeOf, placesOf, readingAt } from './readings';
import { nothing, SignedLength } from './SignedLength';

interface Props {
  fit: FitWorkup;
  workup: Workup;
  busy: boolean;
  onNote: (step: FitStep) => Promise<boolean>;
}

/** One finer reading: what, where, how much. */
export function Finer({ fit, workup, busy, onNote }: Props) {
  const unit = useBench((bench) => bench.unit);
  const [kind, setKind] = useState<FitReading['reads']>('mouth_gap');
  const [chosen, setChosen] = useState<Place>({ clock: '0', to: '0', at: '0' });
  const [value, setValue] = useState(nothing);
  const [second, setSecond] = useState('');
  const [problem, setProblem] = useState<string>();
  const [focused, setFocused] = useState(false);
  const places = placesOf(kind, fit, workup);
  const at = places.some(([key]) => key === chosen.at) ? chosen.at : (places[0]?.[0] ?? '');
  const place = { ...chosen, at };
  const note = async (figures: readonly [number, number]) => {
    const reading = readingAt(kind, place, fit, figures);
    if (!reading) throw new Error('There is nothing there to measure');
    if (!(await onNote({ fit: 'read', reading }))) return;
    setValue(nothing());
    setSecond('');
  };
  const typed = async () => {
    if (kind === 'touches') return 0;
    if (kind !== 'angle') return (await readLength(value.text, unit)).mm * (value.way === 'more' ? 1 : -1);
    const degrees = Number(value.text.replace(',', '.').replace(/\s*°$/, ''));
    if (value.text.trim() === '' || !Number.isFinite(degrees)) throw new Error('Type a number, such as 44.5');
    return degrees;
  };
  const onAdd = async (figure: () => Promise<number>) => {
    setProblem(undefined);
    try {
      await note([await figure(), kind === 'two_ways' ? (await readLength(second, unit)).mm : 0]);
    } catch (error) {
      setProblem(words(error));
    }
  };
  const field = fieldOf[kind];
  useInstrument(focused ? field : undefined, {
    onTaken: (figure) => void onAdd(() => Promise.resolve(figure)),
    onRefused: setProblem,
  });
  /** What a perfect instrument would read: what is expected there. */
  const aim = () => {
    const reading = readingAt(kind, place, fit, [0, 0]);
    const figure = reading && expectedOf(reading, fit);
    return Promise.resolve(figure === undefined ? undefined : [figure]);
  };
  /** Puts the reading that helps most into the fields, its figure still to be read. */
  const onTake = ({ reading }: NextReading) => {
    setKind(reading.reads);
    setValue(nothing());
    setChosen(placeOf(reading, fit));
  };
  const mouth = kind === 'mouth_gap' || kind === 'mouth_step';
  return (
    <Box sx={{ mt: 1.5 }}>
      <Fold name='Measure finer' aside='feeler, straight edge, gauge, tape'>
        <Box sx={{ display: 'grid', gap: 1, mt: 0.5 }}>
          {fit.next && <Helps next={fit.next} onTake={onTake} />}
          <Box sx={{ display: 'grid', gridTemplateColumns: '1fr 1fr', gap: 1 }}>
            <Choice
              label='What'
              width='100%'
              value={kind}
              options={kinds}
              onChange={(next) => {
                setKind(next);
                setProblem(undefined);
              }}
            />
            {mouth || kind === 'end_to_end' ? (
              <Choice
                label={mouth ? 'Where, seen from A' : 'From A'}
                width='100%'
                value={place.clock}
                options={clocks}
                onChange={(clock) => setChosen({ ...place, clock })}
              />
            ) : (
              <Choice
                label='Where'
                width='100%'
                value={place.at}
                options={places}
                onChange={(next) => setChosen({ ...place, at: next })}
              />
            )}
          </Box>
          {kind === 'end_to_end' && (
            <Choice
              label='To B'
              width='100%'
              value={place.to}
              options={clocks}
              onChange={(to) => setChosen({ ...place, to })}
            />
          )}
          {kind !== 'touches' && (
            // What is shown for an instrument stays: nothing moves under a finger.
            <Box onFocus={() => setFocused(true)} sx={{ display: 'grid' }}>
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
            </Box>
          )}
          {kind === 'two_ways' && (
            <PlainField label={`Square to that, ${unit}`} value={second} onChange={setSecond} />
          )}
          {kind === 'touches' && places.length === 0 && (
            <Typography variant='body2'>Nothing is near enough to this pipe to be touched.</Typography>
          )}
          {kind === 'touches' && problem && (
            <Typography role='alert' variant='body2'>
              {problem}
            </Typography>
          )}
          <Button
            variant='outlined'
            disabled={busy || (kind === 'touches' && places.length === 0)}
            onClick={() => void onAdd(typed)}
          >
            Add this reading
          </Button>
          {field && (
            <InstrumentBar only={instruments} wanted={focused ? instrumentOf[field] : undefined} aim={aim} />
          )}
        </Box>
      </Fold>
    </Box>
  );
}

/** What is used while a pipe is tried on. */
const instruments = ['feeler', 'depth', 'tape'] as const;

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
