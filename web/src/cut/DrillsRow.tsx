import { Box, Button, Typography } from '@mui/material';
import { useState } from 'react';
import { words } from '../api/client';
import type { Drills } from '../api/generated/schema';
import { useKeepWorkshop, useWorkshop } from '../api/workshop';
import { same } from '../kit/bench';
import { PlainField } from '../kit/PlainField';
import { Row } from '../kit/Row';
import type { Drawing } from '../kit/useDrawing';
import { token } from '../theme';

interface Props {
  /** Those that this job goes by. */
  pinned: Drills;
  drawing: Drawing;
}

const read = (text: string) =>
  text
    .replaceAll(',', '.')
    .split(/[\s;]+/)
    .filter(Boolean)
    .map(Number);

/** How truly the builder clocks and gauges, by two short drills. They are the workshop's, and said here they are so for new jobs too. */
export function DrillsRow({ pinned, drawing }: Props) {
  const { data } = useWorkshop();
  const { mutateAsync } = useKeepWorkshop();
  const [open, setOpen] = useState(false);
  const [problem, setProblem] = useState<string>();
  const [clocks, setClocks] = useState((pinned.clocks ?? []).join(' '));
  const [angles, setAngles] = useState((pinned.angles ?? []).join(' '));
  const theirs = data?.workshop.drills ?? {};
  const pin = (drills: Drills) => drawing.keep({ step: 'cut', edit: 'pin_drills', drills });
  const good = [...read(clocks), ...read(angles)].every(Number.isFinite);
  const none = same(pinned, {});
  const onKeep = async () => {
    const drills = { clocks: read(clocks), angles: read(angles) };
    try {
      await mutateAsync({ edit: 'set_drills', drills });
      await pin(drills);
      setProblem(undefined);
    } catch (error) {
      setProblem(words(error));
    }
  };
  return (
    <>
      <Row
        name='Hand'
        aside={
          same(theirs, pinned) || data === undefined ? (
            'what it misses by'
          ) : (
            <Button variant='text' sx={{ p: 0 }} onClick={() => void pin(theirs)}>
              Practised anew: use it here
            </Button>
          )
        }
      >
        <Box sx={{ display: 'flex', alignItems: 'center', gap: 1 }}>
          {none ? 'as is usual' : 'as practised'}
          <Button variant='text' sx={{ p: 0 }} aria-expanded={open} onClick={() => setOpen(!open)}>
            {none ? 'Practise' : 'Practised by'}
          </Button>
        </Box>
      </Row>
      {open && (
        <Box component='section' aria-label='Practice' sx={{ pb: 1, display: 'grid', gap: 1 }}>
          <Typography variant='body2' color='textSecondary'>
            <strong>Clocking:</strong> scribe a line along an offcut, saw it through six times, turn each
            piece away and back to the line, tack it, and measure how far the lines are apart round the girth.
          </Typography>
          <PlainField
            label='Lines apart, mm'
            value={clocks}
            placeholder='0.5 -1 0 0.5 -0.5 1'
            onChange={setClocks}
          />
          <Typography variant='body2' color='textSecondary'>
            <strong>Gauge:</strong> put the gauge to one bend six times, taken off and folded in between.
          </Typography>
          <PlainField
            label='Angles read, °'
            value={angles}
            placeholder='44.8 45 45.2 44.9 45 45.1'
            onChange={setAngles}
          />
          {problem && (
            <Typography role='alert' variant='body2' sx={{ color: token.fouls }}>
              {problem}
            </Typography>
          )}
          <Button variant='outlined' disabled={!good} onClick={() => void onKeep()}>
            Reckon with it
          </Button>
        </Box>
      )}
    </>
  );
}
