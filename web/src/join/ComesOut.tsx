import { Box, Button, Typography } from '@mui/material';
import { useEffect, useState } from 'react';
import type { JobState, Workup } from '../api/generated/schema';
import { useApart } from '../api/useApart';
import { sentence, useBench } from '../kit/bench';
import { LookingBar } from '../kit/LookingBar';
import type { Drawing } from '../kit/useDrawing';
import { token } from '../theme';
import { WhereToPart } from './WhereToPart';

interface Props {
  state: JobState;
  workup: Workup;
}

/** How long one frame of a motion is shown, in ms. */
const FRAME = 70;
const REST = [
  [1, 0, 0],
  [0, 1, 0],
  [0, 0, 1],
  [0, 0, 0],
] as [number, number, number][];

/** Whether each section of the pipe comes out of the bay: looked for, and shown as a motion. */
export function ComesOut({ state, workup, drawing }: Props & { drawing: Drawing }) {
  return (
    <Box component='section' aria-label='Does it come out' sx={{ my: 1.5 }}>
      <Typography variant='h2'>Does it come out?</Typography>
      <Typography variant='body2' color='textSecondary' sx={{ mb: 0.5 }}>
        Its joints parted, the bonnet open, the car on stands: past everything that stays, with 2 mm of air.
      </Typography>
      {workup.sections.map((section, index) => (
        <Section
          // What was found is of this pipe as it is now.
          key={section.from.mm}
          state={state}
          workup={workup}
          index={index}
        />
      ))}
      <WhereToPart state={state} workup={workup} drawing={drawing} />
    </Box>
  );
}

function Section({ state, workup, index }: Props & { index: number }) {
  const { unit, setPose } = useBench();
  const { looked, look, callOff } = useApart('section', state.revision);
  const [frame, setFrame] = useState<number>();
  const count = workup.sections.length;
  const { found, problem, share } = looked ?? {};
  const frames = found?.frames ?? [];
  const path = `/api/jobs/${state.id}/runs/${workup.run}/sections/${index}/way-out`;

  // biome-ignore lint/correctness/useExhaustiveDependencies: what was found is of the bay as it was
  useEffect(() => setFrame(undefined), [state.revision]);

  // biome-ignore lint/correctness/useExhaustiveDependencies: the frame says it all
  useEffect(() => {
    if (frame === undefined) return;
    const shown = frames[frame];
    if (!shown) return;
    const sections = Array.from({ length: count }, (_, at) => (at === index ? shown : REST));
    setPose({ roll: 0, shift: [0, 0, 0], sections: sections as [number, number, number][][], of: 'out' });
    if (frame + 1 >= frames.length) return;
    const next = setTimeout(() => setFrame(frame + 1), FRAME);
    return () => clearTimeout(next);
  }, [frame]);

  useEffect(() => () => setPose(undefined), [setPose]);

  const back = () => {
    setFrame(undefined);
    setPose(undefined);
  };
  const name = count > 1 ? `Section ${index + 1}` : 'The pipe';
  return (
    <Box sx={{ py: 0.5, borderTop: `1px solid ${token.hairline}` }}>
      <Box sx={{ display: 'flex', alignItems: 'center', gap: 1, minHeight: 32 }}>
        <Box sx={{ flex: 1, fontSize: 14 }}>{name}</Box>
        {frame !== undefined && (
          <Button size='small' onClick={back}>
            Put it back
          </Button>
        )}
        {frames.length > 0 && (
          <Button size='small' variant='outlined' onClick={() => setFrame(0)}>
            Show it
          </Button>
        )}
        {!found && share === undefined && (
          <Button size='small' variant='outlined' onClick={() => look(path)}>
            Try {name.toLowerCase()}
          </Button>
        )}
      </Box>
      {share !== undefined && (
        <LookingBar share={share} label='How far the search for a way out is' onCallOff={callOff} />
      )}
      {(found || problem) && (
        <Typography
          role='status'
          variant='body2'
          sx={{ color: found && frames.length > 0 ? token.inkSoft : token.tightText }}
        >
          {problem ?? (found && sentence(found.words, unit))}
        </Typography>
      )}
    </Box>
  );
}
