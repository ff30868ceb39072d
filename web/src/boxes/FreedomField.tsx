import { Box, Slider } from '@mui/material';
import { useEffect, useState } from 'react';
import type { ComponentWorkup, FreedomWorkup } from '../api/generated/schema';
import { LengthField } from '../kit/LengthField';
import { NumberField } from '../kit/NumberField';
import type { Drawing } from '../kit/useDrawing';
import { setting } from './useComponent';

interface Props {
  component: ComponentWorkup;
  index: number;
  freedom: FreedomWorkup;
  drawing: Drawing;
}

/** Which way a freedom goes, in a word or two. */
export function freedomName({ is, axis }: FreedomWorkup): string {
  const main = [0, 1, 2].reduce((p, q) => (Math.abs(axis[q] ?? 0) > Math.abs(axis[p] ?? 0) ? q : p), 0);
  if (is.moves === 'slide') return ['Forward', 'Left', 'Up'][main] ?? 'Slide';
  return ['Roll', 'Lean', 'Turn'][main] ?? 'Turn';
}

/** Turns or slides a component: by hand with a preview, or typed. */
export function FreedomField({ component, index, freedom, drawing }: Props) {
  const { setting: now } = freedom;
  const [at, setAt] = useState(now);
  useEffect(() => setAt(now), [now]);
  const name = `${freedomName(freedom)} of ${component.name}`;
  const edit = (to: number) => setting(component.component, index, to);
  const slides = freedom.is.moves === 'slide';
  const keep = (to: number) => drawing.keep(edit(to));
  return (
    <Box
      sx={{ display: 'grid', gridTemplateColumns: '62px 1fr 96px', gap: 1.5, alignItems: 'center', my: 0.5 }}
    >
      <Box sx={{ fontSize: 14 }}>{freedomName(freedom)}</Box>
      <Slider
        size='small'
        aria-label={name}
        min={freedom.least}
        max={freedom.most}
        step={freedom.step ?? (slides ? 1 : 0.5)}
        marks={freedom.step != null || [{ value: 0 }]}
        value={at}
        onChange={(_, value) => {
          setAt(value as number);
          drawing.propose(edit(value as number));
        }}
        onChangeCommitted={(_, value) => void keep(value as number)}
      />
      {freedom.slid ? (
        <LengthField label={`${name}, typed`} hideLabel width={96} value={freedom.slid} onKeep={keep} />
      ) : (
        <NumberField label={`${name}, typed`} hideLabel unit='°' width={96} value={now} onKeep={keep} />
      )}
    </Box>
  );
}
