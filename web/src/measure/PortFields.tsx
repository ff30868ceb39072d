import { Box, Typography } from '@mui/material';
import { useState } from 'react';
import type { Direction, EndForm, Measure, Port, Side } from '../api/generated/schema';
import { Choice } from '../kit/Choice';
import { LengthField } from '../kit/LengthField';
import { NumberField } from '../kit/NumberField';
import { NameField } from './NameField';
import { formNames, metalNames, options, sideNames } from './names';

/** What a field makes of the port as it is when the field is kept. */
export type PortChange = (port: Port) => Port;

interface Props {
  /** Names the fields: `A` or `B`. */
  letter: string;
  port: Port;
  at: readonly (Measure | undefined)[];
  od: Measure | undefined;
  /** As an angle gauge says it, or as components. */
  out: Direction;
  /** The same direction both ways, where the server has worked it out. */
  live?: { heading: number; pitch: number; vector: readonly [number, number, number] } | undefined;
  /** What follows from readings, so that typing it would change nothing. */
  measured?: { place: boolean; aim: boolean };
  /** Called with what to change, so that fields kept in quick succession do not undo each other. */
  onChange: (change: PortChange) => unknown;
}

const axes = ['Forward x', 'Left y', 'Up z'] as const;

/** A port's decisions, each typed on its own. */
export function PortFields({ letter, port, at, od, out, live, measured, onChange }: Props) {
  const [by, setBy] = useState<'gauge' | 'vector'>(Array.isArray(out) ? 'vector' : 'gauge');
  return (
    <Box sx={{ display: 'grid', gap: 1, pt: 1 }}>
      <NameField
        label={`Name of port ${letter}`}
        value={port.name}
        onKeep={(name) => onChange((now) => ({ ...now, name }))}
      />
      {measured?.place ? (
        <Held what='Its place' />
      ) : (
        <Box sx={{ display: 'grid', gridTemplateColumns: '1fr 1fr 1fr', gap: 1 }}>
          {axes.map((axis, index) => (
            <LengthField
              key={axis}
              label={`${axis}, ${letter}`}
              width='100%'
              value={at[index]}
              onKeep={(mm) => onChange((now) => ({ ...now, at: now.at.with(index, mm) as Port['at'] }))}
            />
          ))}
        </Box>
      )}
      <Box sx={{ display: 'grid', gridTemplateColumns: '2fr 1fr', gap: 1 }}>
        <Choice<'gauge' | 'vector'>
          label={`Direction by, ${letter}`}
          width='100%'
          value={by}
          options={[
            ['gauge', 'Angle gauge'],
            ['vector', 'Vector'],
          ]}
          onChange={(next) => {
            setBy(next);
            if (!live)
              onChange((now) => ({ ...now, out: next === 'gauge' ? { heading: 0, pitch: 0 } : [1, 0, 0] }));
          }}
        />
        <LengthField
          label={`Outside, ${letter}`}
          width='100%'
          value={od}
          onKeep={(mm) => onChange((now) => ({ ...now, od: mm }))}
        />
      </Box>
      {measured?.aim ? (
        <Held what='The way it points' />
      ) : (
        <DirectionFields
          letter={letter}
          by={by}
          out={out}
          live={live}
          onChange={(turn) => onChange((now) => ({ ...now, out: turn(now.out) }))}
        />
      )}
      <Box sx={{ display: 'grid', gridTemplateColumns: '1fr 1fr', gap: 1 }}>
        <Choice<EndForm>
          label={`End form, ${letter}`}
          width='100%'
          value={port.form}
          options={options(formNames)}
          onChange={(form) => onChange((now) => ({ ...now, form }))}
        />
        <Choice<Side>
          label={`Rides on, ${letter}`}
          width='100%'
          value={port.rides}
          options={options(sideNames)}
          onChange={(rides) => onChange((now) => ({ ...now, rides }))}
        />
      </Box>
      <Choice
        label={`Made of, ${letter}`}
        width='100%'
        value={port.metal && port.metal in metalNames ? (port.metal as keyof typeof metalNames) : 'unknown'}
        options={[['unknown', 'not said'] as const, ...options(metalNames)]}
        onChange={(metal) => onChange((now) => ({ ...now, metal: metal === 'unknown' ? null : metal }))}
      />
    </Box>
  );
}

function Held({ what }: { what: string }) {
  return (
    <Typography variant='body2' color='textSecondary'>
      {what} follows from what is read or sawn.
    </Typography>
  );
}

interface DirectionProps {
  letter: string;
  by: 'gauge' | 'vector';
  out: Direction;
  live: Props['live'];
  onChange: (turn: (out: Direction) => Direction) => unknown;
}

function DirectionFields({ letter, by, out, live, onChange }: DirectionProps) {
  const asGauge = (said: Direction) => (Array.isArray(said) ? (live ?? { heading: 0, pitch: 0 }) : said);
  const asVector = (said: Direction) => (Array.isArray(said) ? said : (live?.vector ?? ([1, 0, 0] as const)));
  if (by === 'gauge') {
    const { heading, pitch } = asGauge(out);
    return (
      <Box sx={{ display: 'grid', gridTemplateColumns: '1fr 1fr', gap: 1 }}>
        <NumberField
          label={`Heading, left of forward, ${letter}`}
          unit='°'
          width='100%'
          value={heading}
          onKeep={(typed) => onChange((now) => ({ heading: typed, pitch: asGauge(now).pitch }))}
        />
        <NumberField
          label={`Pitch, above level, ${letter}`}
          unit='°'
          width='100%'
          value={pitch}
          onKeep={(typed) => onChange((now) => ({ heading: asGauge(now).heading, pitch: typed }))}
        />
      </Box>
    );
  }
  const vector = asVector(out);
  return (
    <Box sx={{ display: 'grid', gridTemplateColumns: '1fr 1fr 1fr', gap: 1 }}>
      {axes.map((axis, index) => (
        <NumberField
          key={axis}
          label={`Out ${axis.toLowerCase()}, ${letter}`}
          unit=''
          digits={4}
          width='100%'
          value={vector[index] ?? 0}
          onKeep={(typed) =>
            onChange((now) => [...asVector(now)].with(index, typed) as [number, number, number])
          }
        />
      ))}
    </Box>
  );
}
