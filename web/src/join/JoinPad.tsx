import { Box } from '@mui/material';
import type { Workup } from '../api/generated/schema';
import { useBench } from '../kit/bench';
import { Findings } from '../kit/Findings';
import type { Drawing } from '../kit/useDrawing';
import { EndPad } from './EndPad';
import { JointPad } from './JointPad';

/** The bench pad of the Join step: both ends, and what is joined between them. */
export function JoinPad({ workup, drawing }: { workup: Workup; drawing: Drawing }) {
  const selected = useBench((bench) => bench.selected);
  return (
    <Box sx={{ display: 'grid', gap: 2 }}>
      <Findings
        findings={workup.findings.filter(
          (finding) =>
            finding.part.part === 'end' || finding.part.part === 'joint' || finding.part.part === 'run',
        )}
        selected={selected}
        onMend={(edit) => void drawing.keep(edit)}
      />
      <EndPad workup={workup} end='a' drawing={drawing} />
      {workup.joints.map((joint) => (
        <Box key={joint.joint}>
          <JointPad workup={workup} joint={joint} drawing={drawing} />
        </Box>
      ))}
      <EndPad workup={workup} end='b' drawing={drawing} />
    </Box>
  );
}
