import { Box, Button, Typography } from '@mui/material';
import type { BayWorkup, JobState, PartRef } from '../api/generated/schema';
import { figure, sentence, useBench } from '../kit/bench';
import { Choice } from '../kit/Choice';
import { token } from '../theme';
import type { GapBetween } from './useGap';

interface Props {
  state: JobState;
  bay: BayWorkup;
  between: PartRef[];
  gap: GapBetween | undefined;
}

/** The distance tool: two things, pressed in the bay or chosen here, and what is between them. */
export function GapStrip({ state, bay, between, gap }: Props) {
  const { setBetween, unit } = useBench();
  const things = thingsOf(state, bay);
  const key = (part: PartRef | undefined) => (part ? JSON.stringify(whole(part)) : '');
  const options = [
    ['', 'Press or choose a thing'] as const,
    ...things.map(([part, name]) => [key(part), name] as const),
  ];
  const set = (place: 0 | 1, chosen: string) => {
    const part = things.find(([thing]) => key(thing) === chosen)?.[0];
    const next = [...between];
    if (part) next[place] = part;
    else next.splice(place, 1);
    setBetween(next.filter(Boolean));
  };
  return (
    <Box
      component='section'
      aria-label='Distance'
      sx={{
        position: 'absolute',
        left: 12,
        right: 12,
        bottom: 12,
        bgcolor: token.plate,
        borderTop: `3px solid ${token.straw}`,
        px: 1.5,
        py: 1.25,
      }}
    >
      <Box sx={{ display: 'flex', gap: 1, alignItems: 'center' }}>
        <Choice
          label='From'
          width='50%'
          value={key(between[0])}
          options={options}
          onChange={(to) => set(0, to)}
        />
        <Choice
          label='To'
          width='50%'
          value={key(between[1])}
          options={options}
          onChange={(to) => set(1, to)}
        />
        <Button onClick={() => setBetween(undefined)}>Close</Button>
      </Box>
      <Typography role='status' variant='body2' sx={{ mt: 0.75, minHeight: 21 }}>
        {said()}
      </Typography>
    </Box>
  );

  function said() {
    switch (gap?.is) {
      case 'known': {
        const [x, y, z] = gap.gap.along.map((along) => figure(along, unit));
        return (
          <>
            <strong>{sentence(gap.gap.words, unit)}</strong> As they stand, the engine at rest: forward {x},
            left {y}, up {z}.
          </>
        );
      }
      case 'refused':
        return gap.why;
      case 'asked':
        return 'Measuring…';
      case undefined:
        return between.length === 0 ? 'Press the first of two things in the bay.' : 'Now the other one.';
    }
  }
}

/** A part of a run stands for all of it, but for its mouths. */
function whole(part: PartRef): PartRef {
  return part.part === 'straight' ||
    part.part === 'bend' ||
    part.part === 'joint' ||
    part.part === 'support' ||
    part.part === 'branch' ||
    part.part === 'piece'
    ? { part: 'run', run: part.run }
    : part;
}

function thingsOf(state: JobState, bay: BayWorkup): [PartRef, string][] {
  const mark = (run: number) => state.job.runs.find((one) => one.id === run)?.mark ?? '';
  return [
    ...bay.pipes.map((pipe): [PartRef, string] => [{ part: 'run', run: pipe.run }, pipe.name]),
    ...bay.ports.map((port): [PartRef, string] => [
      { part: 'end', ...port.port },
      `mouth ${mark(port.port.run)} ${port.port.end.toUpperCase()}, ${port.name}`,
    ]),
    ...bay.keep_outs.map((one): [PartRef, string] => [
      { part: 'keep_out', keep_out: one.keep_out },
      one.name,
    ]),
    ...bay.datums.map((one): [PartRef, string] => [{ part: 'datum', datum: one.datum }, one.name]),
  ];
}
