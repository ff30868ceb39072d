import { Box, Button } from '@mui/material';
import type { Workup } from '../api/generated/schema';
import { useBench } from '../kit/bench';
import { Findings } from '../kit/Findings';
import type { Drawing } from '../kit/useDrawing';
import { EndPad } from './EndPad';
import { JointPad } from './JointPad';
import { KindPalette } from './KindPalette';
import { MovesList } from './MovesList';

/** The bench pad of the Join step: what the joints take of the movement, one of them at a time, and kinds to put along. */
export function JoinPad({ workup, drawing }: { workup: Workup; drawing: Drawing }) {
  const { selected, select } = useBench();
  const joint =
    selected.part === 'joint' ? workup.joints.find((one) => one.joint === selected.joint) : undefined;
  const end = selected.part === 'end' ? selected.end : undefined;
  const one = joint !== undefined || end !== undefined;
  const findings = (
    <Findings
      {...(one ? { only: 'here' as const } : {})}
      findings={workup.findings.filter((finding) => finding.step === 'join')}
      selected={selected}
      onMend={(edit) => void drawing.keep(edit)}
    />
  );
  if (!one) {
    return (
      <Box>
        {findings}
        <MovesList workup={workup} />
        <KindPalette workup={workup} drawing={drawing} />
      </Box>
    );
  }
  return (
    <Box>
      {findings}
      {joint && <JointPad key={joint.joint} workup={workup} joint={joint} drawing={drawing} />}
      {end && <EndPad key={end} workup={workup} end={end} drawing={drawing} />}
      <Button sx={{ mt: 1 }} onClick={() => select({ part: 'run', run: workup.run })}>
        All joints of this pipe
      </Button>
    </Box>
  );
}
