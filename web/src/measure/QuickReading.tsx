import { Box, Button, InputAdornment, TextField, Typography } from '@mui/material';
import { useEffect, useRef, useState } from 'react';
import { answered, server, words } from '../api/client';
import type { BayWorkup, JobState, Measurand, Spot, Taken } from '../api/generated/schema';
import { readLength } from '../api/hooks';
import { InstrumentBar } from '../instruments/InstrumentBar';
import { instrumentOf } from '../instruments/instrumentOf';
import { useInstrument } from '../instruments/useInstrument';
import { useBench } from '../kit/bench';
import { Choice } from '../kit/Choice';
import { LengthField } from '../kit/LengthField';
import type { Drawing } from '../kit/useDrawing';
import { token } from '../theme';
import {
  asFields,
  fieldOf,
  fromOptions,
  hasFigure,
  isAngle,
  type ReadingKind,
  readingNames,
  rimOf,
  taken,
  withRim,
} from './readingKinds';
import { SpotChoice } from './SpotChoice';
import { useMeasures } from './useMeasures';

interface Props {
  state: JobState;
  of: Measurand;
  /** Which kinds of reading the thing can have. */
  kinds: readonly ReadingKind[];
  bay: BayWorkup;
  drawing: Drawing;
  /** Its own key among what readings start from. */
  self: string;
  /** The points a reading can go to besides the thing's own. */
  spots: 'mouth' | 'corners' | undefined;
  /** The reading that would help most, to be put into the fields with one press. */
  suggested: Taken | undefined;
}

/** One line for a new reading: typed, or taken from an instrument while its figure has the focus. */
export function QuickReading({ state, of, kinds, bay, drawing, self, spots, suggested }: Props) {
  const unit = useBench((bench) => bench.unit);
  const [kind, setKind] = useState<ReadingKind>(kinds[0] ?? 'tape');
  const [from, setFrom] = useState('');
  const [to, setTo] = useState<Spot>({ spot: 'centre' });
  const [text, setText] = useState('');
  const [wall, setWall] = useState(2);
  const wallMeasure = useMeasures([wall]);
  const [problem, setProblem] = useState<string>();
  const [focused, setFocused] = useState(false);
  const figure = useRef<HTMLInputElement>(null);
  const options = fromOptions(kind, bay, self);
  const plain = withRim(from, undefined);
  const known = options.some((option) => option.key === plain);
  const source = known ? (kind === 'tape' ? from : plain) : (options[0]?.key ?? '');
  const field = fieldOf(kind);

  // biome-ignore lint/correctness/useExhaustiveDependencies: only a new suggestion fills the fields
  useEffect(() => {
    setProblem(undefined);
  }, [kind, self]);

  async function add(value: number) {
    const reading = { taken: taken(kind, source, to, value, wall), counts: true };
    if (!(await drawing.keep({ step: 'measure', edit: 'add_reading', of, reading }))) return;
    setText('');
    setProblem(undefined);
    // The next tape starts from the next point.
    const next = options[options.findIndex((option) => option.key === withRim(source, undefined)) + 1];
    if ((kind === 'tape' || kind === 'up') && next) setFrom(next.key);
  }

  async function send() {
    try {
      if (!hasFigure(kind)) return await add(0);
      if (isAngle(kind)) {
        const typed = text.replace(',', '.').replace(/\s*°$/, '').trim();
        if (!/^-?\d+(\.\d+)?$/.test(typed)) throw new Error('Type degrees, such as 12.5');
        return await add(Number(typed));
      }
      await add((await readLength(text, unit)).mm);
    } catch (error) {
      setProblem(words(error));
    }
  }

  useInstrument(focused ? field : undefined, {
    onTaken: (value) => void add(value),
    onRefused: setProblem,
  });

  /** What a perfect instrument would read here: the server is asked what the present place gives. */
  async function aim(): Promise<number[] | undefined> {
    const guess = isAngle(kind) ? 0 : 100;
    const reading = { taken: taken(kind, source, to, guess, wall), counts: false };
    const path = { id: state.id };
    try {
      const tried = await answered(
        server.POST('/api/jobs/{id}/preview', {
          params: { path },
          body: { edit: { step: 'measure', edit: 'add_reading', of, reading } },
        }),
      );
      const value = tried.bay ? lastPredicted(tried.bay, of) : undefined;
      if (value === undefined) return undefined;
      return kind === 'pitch' ? [0, value, 0] : [value];
    } catch (error) {
      setProblem(words(error));
      return undefined;
    }
  }

  const takeSuggested = () => {
    if (!suggested) return;
    const fields = asFields(suggested);
    setKind(fields.kind);
    setFrom(fields.from);
    setTo(fields.to);
    figure.current?.focus();
  };

  return (
    <Box
      component='section'
      aria-label='New reading'
      sx={{ mt: 1, p: 1, bgcolor: token.sheet, border: `1px solid ${token.hairline}` }}
    >
      <Box sx={{ display: 'grid', gridTemplateColumns: options.length > 0 ? '1fr 1fr' : '1fr', gap: 1 }}>
        <Choice
          label='Kind of reading'
          width='100%'
          hideLabel
          value={kind}
          options={kinds.map((name) => [name, readingNames[name]] as const)}
          onChange={(next) => {
            setKind(next);
            setTo({ spot: 'centre' });
          }}
        />
        {options.length > 0 && (
          <Choice
            label='From what'
            width='100%'
            hideLabel
            value={withRim(source, undefined)}
            options={options.map((option) => [option.key, option.name] as const)}
            onChange={setFrom}
          />
        )}
        {kind === 'tape' && source.startsWith('port ') && (
          <Choice
            label='From which point of that mouth'
            width='100%'
            value={rimOf(source) ?? 'centre'}
            options={[
              ['centre', 'its centre'],
              ['near', 'its near rim'],
              ['far', 'its far rim'],
            ]}
            onChange={(rim) => setFrom(withRim(source, rim === 'centre' ? undefined : rim))}
          />
        )}
        {kind === 'bore' && (
          <LengthField label='Wall at the lip' width='100%' value={wallMeasure(wall)} onKeep={setWall} />
        )}
      </Box>
      <Box sx={{ display: 'flex', flexWrap: 'wrap', gap: 1, mt: 1, alignItems: 'flex-start' }}>
        {spots && (kind === 'tape' || kind === 'up' || kind === 'forward' || kind === 'left') && (
          <SpotChoice spots={spots} spot={to} tape={kind === 'tape'} onChange={setTo} />
        )}
        {hasFigure(kind) && (
          <TextField
            inputRef={figure}
            value={text}
            error={problem !== undefined}
            onChange={(event) => setText(event.target.value)}
            onFocus={() => setFocused(true)}
            onBlur={() => setFocused(false)}
            onKeyDown={(event) => {
              if (event.key === 'Enter') void send();
            }}
            sx={{ flex: '1 1 90px', '& input': { fontSize: 17, fontWeight: 700 } }}
            slotProps={{
              htmlInput: {
                'aria-label': 'Figure of the new reading',
                autoComplete: 'off',
                spellCheck: false,
              },
              input: {
                endAdornment: (
                  <InputAdornment position='end' disableTypography>
                    {isAngle(kind) ? '°' : unit}
                  </InputAdornment>
                ),
              },
            }}
          />
        )}
        <Button variant='contained' onClick={() => void send()} sx={{ minHeight: 34 }}>
          Add
        </Button>
      </Box>
      {problem && (
        <Typography role='alert' sx={{ fontSize: 13, color: token.fouls, mt: 0.5, lineHeight: 1.3 }}>
          {problem}
        </Typography>
      )}
      {suggested && (
        <Button variant='text' onClick={takeSuggested} sx={{ p: 0, mt: 0.5, fontSize: 13 }}>
          Set the fields to the reading that would help most
        </Button>
      )}
      <InstrumentBar only={used} wanted={focused && field ? instrumentOf[field] : undefined} aim={aim} />
    </Box>
  );
}

/** What places are measured with. */
const used = ['tape', 'gauge', 'caliper'] as const;

function lastPredicted(bay: BayWorkup, of: Measurand): number | undefined {
  const found =
    of.of === 'datum'
      ? bay.datums.find((datum) => datum.datum === of.datum)?.found
      : of.of === 'port'
        ? bay.ports.find((port) => port.port.run === of.port.run && port.port.end === of.port.end)?.found
        : bay.keep_outs.find((keepOut) => keepOut.keep_out === of.keep_out)?.found;
  return found?.readings.at(-1)?.predicted ?? undefined;
}
