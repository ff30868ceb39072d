import { Box } from '@mui/material';
import type { BayWorkup, BranchMouth, JobState, Port, PortWorkup } from '../api/generated/schema';
import { length, useBench } from '../kit/bench';
import { Choice } from '../kit/Choice';

interface Props {
  state: JobState;
  bay: BayWorkup | undefined;
  letter: string;
  port: Port;
  onPick: (port: Port) => void;
}

const NEW = 'new';
const stubKey = ({ run, branch }: BranchMouth) => `stub ${run} ${branch}`;

/** Mouths that are measured already, each with the box it stands on: what was read of one is taken with it. */
export function MouthChoice({ state, bay, letter, port, onPick }: Props) {
  const unit = useBench((bench) => bench.unit);
  const measured = bay?.ports ?? [];
  const stubs = bay?.stubs ?? [];
  if (measured.length + stubs.length === 0) return null;
  const keyOf = ({ port: { run, end } }: PortWorkup) => `${run} ${end}`;
  const documentOf = ({ port: { run, end } }: PortWorkup) =>
    state.job.runs.find((one) => one.id === run)?.[end];
  const on = (one: PortWorkup) => bay?.keep_outs.find((box) => box.keep_out === one.on)?.name;
  const text = (one: PortWorkup) => {
    const box = on(one);
    const mark = state.job.runs.find((run) => run.id === one.port.run)?.mark ?? one.run_name;
    return `${one.name}${box ? `, on ${box}` : ''}: ${length(one.od, unit)} (${mark} ${one.port.end.toUpperCase()})`;
  };
  const stub = stubs.find((one) => one.port === port);
  const now = measured.find((one) => documentOf(one) === port);
  return (
    <Box sx={{ pt: 1.25 }}>
      <Choice
        label={`Measured already, ${letter}`}
        width='100%'
        value={now ? keyOf(now) : stub ? stubKey(stub) : NEW}
        options={[
          [NEW, 'A new mouth'],
          ...measured.map((one) => [keyOf(one), text(one)] as const),
          ...stubs.map((one) => [stubKey(one), one.port.name] as const),
        ]}
        onChange={(key) => {
          const stub = stubs.find((one) => stubKey(one) === key);
          if (stub) onPick(stub.port);
          const picked = measured.find((one) => keyOf(one) === key);
          const known = picked && documentOf(picked);
          if (known) onPick(known);
        }}
      />
    </Box>
  );
}
