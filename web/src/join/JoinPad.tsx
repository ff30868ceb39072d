import { Box, Button, Typography } from '@mui/material';
import type { JobState, Workup } from '../api/generated/schema';
import { HoseParts } from '../cut/HosePad';
import { useBench } from '../kit/bench';
import { Findings } from '../kit/Findings';
import type { Drawing } from '../kit/useDrawing';
import { BranchPad } from './BranchPad';
import { ComesOut } from './ComesOut';
import { EndPad } from './EndPad';
import { HoldList } from './HoldList';
import { JointPad } from './JointPad';
import { KindPalette } from './KindPalette';
import { LetInList } from './LetInList';
import { MovesList } from './MovesList';
import { SupportPad } from './SupportPad';

interface Props {
  state: JobState;
  workup: Workup;
  drawing: Drawing;
}

/** The bench pad of the Join step: what the joints take of the movement, what holds it, one of them at a time, and kinds to put along. */
export function JoinPad({ state, workup, drawing }: Props) {
  const { selected, select } = useBench();
  const joint =
    selected.part === 'joint' ? workup.joints.find((one) => one.joint === selected.joint) : undefined;
  const end = selected.part === 'end' ? selected.end : undefined;
  const support =
    selected.part === 'support' ? workup.supports.find((one) => one.support === selected.support) : undefined;
  const branch =
    selected.part === 'branch' ? workup.branches.find((one) => one.branch === selected.branch) : undefined;
  const one = branch !== undefined || joint !== undefined || support !== undefined || end !== undefined;
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
        {workup.hose && <HoseParts workup={workup} hose={workup.hose} />}
        {!workup.hose && <MovesList workup={workup} />}
        <HoldList state={state} workup={workup} drawing={drawing} />
        {workup.decisions.hose ? (
          <Typography variant='body2' color='textSecondary' sx={{ mt: 1 }}>
            A hose is joined by its own ends: pick A or B on the rod to choose its fitting. Undone at both
            ends it bends and is drawn out by hand, so no way out is looked for.
          </Typography>
        ) : (
          <>
            <LetInList workup={workup} drawing={drawing} />
            <ComesOut state={state} workup={workup} drawing={drawing} />
            <KindPalette workup={workup} drawing={drawing} />
          </>
        )}
        <Button
          variant='outlined'
          sx={{ mt: 1 }}
          href={`/api/jobs/${state.id}/runs/${workup.run}/fittings.csv`}
          disabled={!workup.totals}
        >
          Joints, supports, branches (CSV)
        </Button>
      </Box>
    );
  }
  return (
    <Box>
      {findings}
      {joint && <JointPad key={joint.joint} workup={workup} joint={joint} drawing={drawing} />}
      {support && (
        <SupportPad key={support.support} state={state} workup={workup} support={support} drawing={drawing} />
      )}
      {branch && (
        <BranchPad key={branch.branch} state={state} workup={workup} branch={branch} drawing={drawing} />
      )}
      {end && <EndPad key={end} workup={workup} end={end} drawing={drawing} />}
      <Button sx={{ mt: 1 }} onClick={() => select({ part: 'run', run: workup.run })}>
        All that joins and holds it
      </Button>
    </Box>
  );
}
