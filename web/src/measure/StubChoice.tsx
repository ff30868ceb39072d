import { Box } from '@mui/material';
import type { BayWorkup, End, JobState, StubRef } from '../api/generated/schema';
import { Choice } from '../kit/Choice';
import type { Drawing } from '../kit/useDrawing';

interface Props {
  state: JobState;
  bay: BayWorkup;
  run: number;
  end: End;
  drawing: Drawing;
}

const OWN = 'own';
const keyOf = ({ run, branch }: StubRef) => `${run} ${branch}`;

/** The stub of another pipe that a mouth is, or that it stands by itself. */
export function StubChoice({ state, bay, run, end, drawing }: Props) {
  const { runs } = state.job;
  const on = (one: (typeof runs)[number], at: End) => one.stubs?.[at];
  const now = runs.flatMap((one) => (one.id === run ? [on(one, end)] : [])).find(Boolean);
  const taken = new Set(
    runs.flatMap((one) => [on(one, 'a'), on(one, 'b')].flatMap((stub) => (stub ? [keyOf(stub)] : []))),
  );
  const free = bay.stubs.filter(
    (stub) => stub.run !== run && (!taken.has(keyOf(stub)) || (now && keyOf(now) === keyOf(stub))),
  );
  if (free.length === 0) return null;
  return (
    <Box sx={{ mt: 1 }}>
      <Choice
        label='Goes on from'
        width='100%'
        value={now ? keyOf(now) : OWN}
        options={[
          [OWN, now ? 'Nothing: it stays where it is' : 'Nothing: it stands by itself'],
          ...free.map((stub) => [keyOf(stub), `The ${stub.port.name}`] as const),
        ]}
        onChange={(key) => {
          const stub = free.find((one) => keyOf(one) === key);
          void drawing.keep({
            step: 'measure',
            edit: 'join_stub',
            run,
            end,
            stub: stub ? { run: stub.run, branch: stub.branch } : null,
          });
        }}
      />
    </Box>
  );
}
