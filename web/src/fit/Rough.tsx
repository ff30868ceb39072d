import { Box, Button, Typography } from '@mui/material';
import { useState } from 'react';
import { words } from '../api/client';
import type { FitStep } from '../api/generated/schema';
import { readLength } from '../api/hooks';
import { useBench } from '../kit/bench';
import { nothing, type Signed, SignedLength } from './SignedLength';

interface Props {
  busy: boolean;
  onNote: (step: FitStep) => Promise<boolean>;
}

type Part = 'low' | 'left' | 'long';

const parts: readonly (readonly [Part, string, readonly [string, string]])[] = [
  ['low', 'Up and down', ['too low', 'too high']],
  ['left', 'Sideways', ['too far left', 'too far right']],
  ['long', 'Along it', ['too long', 'too short']],
];

/** How the end lies beside its mouth, as one says it at first. */
export function Rough({ busy, onNote }: Props) {
  const unit = useBench((bench) => bench.unit);
  const [value, setValue] = useState<Record<Part, Signed>>({
    low: nothing(),
    left: nothing(),
    long: nothing(),
  });
  const [problems, setProblems] = useState<Partial<Record<Part, string>>>({});
  const onSay = async () => {
    const wrong: Partial<Record<Part, string>> = {};
    const read = { low: 0, left: 0, long: 0 };
    for (const [part] of parts) {
      const { text, way } = value[part];
      if (text.trim() === '') continue;
      try {
        read[part] = (await readLength(text, unit)).mm * (way === 'more' ? 1 : -1);
      } catch (error) {
        wrong[part] = words(error);
      }
    }
    setProblems(wrong);
    if (Object.keys(wrong).length > 0) return;
    if (await onNote({ fit: 'read', reading: { reads: 'rough', ...read } })) {
      setValue({ low: nothing(), left: nothing(), long: nothing() });
    }
  };
  return (
    <Box component='section' aria-label='How it lies at B' sx={{ mt: 1.5, display: 'grid', gap: 1 }}>
      <Typography variant='h2' component='h3'>
        How does it lie at B?
      </Typography>
      {parts.map(([part, label, ways]) => (
        <SignedLength
          key={part}
          label={label}
          unit={unit}
          ways={ways}
          value={value[part]}
          problem={problems[part]}
          onChange={(next) => setValue({ ...value, [part]: next })}
        />
      ))}
      <Button variant='contained' color='secondary' disabled={busy} onClick={() => void onSay()}>
        Say so
      </Button>
    </Box>
  );
}
