import { Button } from '@mui/material';
import { useState } from 'react';
import type { Workup } from '../api/generated/schema';
import { LengthField } from '../kit/LengthField';
import { Row } from '../kit/Row';
import type { Drawing } from '../kit/useDrawing';

/** How long the longest stick of this tube is that is to be had; what is longer is spliced. */
export function LongestRow({ workup, drawing }: { workup: Workup; drawing: Drawing }) {
  const { run, longest, splices } = workup;
  const [asked, setAsked] = useState(false);
  const set = (mm: number | null) => drawing.keep({ step: 'cut', edit: 'set_longest', run, longest: mm });
  const said = splices.length === 1 ? 'one splice' : `${splices.length} splices`;
  if (!longest && !asked) {
    return (
      <Row name='Longest stick' aside=''>
        <Button variant='text' sx={{ p: 0 }} onClick={() => setAsked(true)}>
          long enough for each piece
        </Button>
      </Row>
    );
  }
  return (
    <Row
      name='Longest stick'
      aside={
        longest ? (
          <Button
            variant='text'
            sx={{ p: 0 }}
            onClick={() => {
              setAsked(false);
              void set(null);
            }}
          >
            {said}; there are longer ones
          </Button>
        ) : (
          'longer pieces are spliced'
        )
      }
    >
      <LengthField label='Longest stick to be had' hideLabel value={longest ?? undefined} onKeep={set} />
    </Row>
  );
}
