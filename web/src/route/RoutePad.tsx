import { Box } from '@mui/material';
import type { Edit, JobState, Workup } from '../api/generated/schema';
import { useWaysStanding } from '../api/ways';
import { EndPad } from '../join/EndPad';
import { JointPad } from '../join/JointPad';
import { isWhole, type RouteStage, routeStages, type Selected, useBench } from '../kit/bench';
import { Findings } from '../kit/Findings';
import { StageTabs } from '../kit/StageTabs';
import type { Drawing } from '../kit/useDrawing';
import { BendPad } from './BendPad';
import { BesideStage } from './BesideStage';
import { FlowStage } from './FlowStage';
import { Elsewhere, RunPad } from './RunPad';
import { StraightPad } from './StraightPad';
import { WaysStage } from './WaysStage';

interface Props {
  state: JobState;
  workup: Workup;
  drawing: Drawing;
}

/** The bench pad of the Route step: shaping by hand, ways round, ways kept beside, and what flows. */
export function RoutePad({ state, workup, drawing }: Props) {
  const { selected, routeStage, setRouteStage } = useBench();
  const kept = workup.decisions.kept?.length ?? 0;
  const ways = useWaysStanding(state, workup.run);
  const names: Record<RouteStage, string> = {
    shape: 'Shape',
    ways:
      ways?.is === 'known'
        ? `Ways round ${ways.fit}`
        : ways?.is === 'looking'
          ? 'Ways round …'
          : 'Ways round',
    beside: kept > 0 ? `Beside ${kept}` : 'Beside',
    flow: 'Flow',
  };
  return (
    <>
      <StageTabs
        label='Parts of the route'
        stages={routeStages}
        names={names}
        now={routeStage}
        onOpen={setRouteStage}
      />
      {routeStage === 'shape' && <ShapeStage workup={workup} drawing={drawing} selected={selected} />}
      {routeStage === 'ways' && (
        <WaysStage key={workup.run} state={state} workup={workup} drawing={drawing} />
      )}
      {routeStage === 'beside' && <BesideStage state={state} workup={workup} drawing={drawing} />}
      {routeStage === 'flow' && <FlowStage workup={workup} drawing={drawing} />}
    </>
  );
}

/** The one thing selected, and what is wrong. */
function ShapeStage({ workup, drawing, selected }: Omit<Props, 'state'> & { selected: Selected }) {
  const mend = (edit: Edit) => void drawing.keep(edit);
  const whole = isWhole(selected);
  const bend = selected.part === 'bend' ? workup.bends.findIndex((one) => one.bend === selected.bend) : -1;
  const straight =
    selected.part === 'straight'
      ? workup.straights.findIndex((one) => one.straight === selected.straight)
      : -1;
  const joint =
    selected.part === 'joint' ? workup.joints.find((one) => one.joint === selected.joint) : undefined;
  return (
    <>
      <Findings
        {...(whole ? {} : { only: 'here' as const })}
        findings={workup.findings}
        selected={selected}
        onMend={mend}
      />
      {bend >= 0 ? (
        <BendPad key={bend} workup={workup} index={bend} drawing={drawing} />
      ) : straight >= 0 ? (
        <StraightPad key={straight} workup={workup} index={straight} drawing={drawing} />
      ) : joint ? (
        <JointPad key={joint.joint} workup={workup} joint={joint} drawing={drawing} />
      ) : selected.part === 'end' ? (
        <EndPad key={selected.end} workup={workup} end={selected.end} drawing={drawing} />
      ) : (
        <RunPad workup={workup} drawing={drawing} />
      )}
      {!whole && (
        <Box sx={{ mt: 1.25 }}>
          <Findings only='rest' findings={workup.findings} selected={selected} onMend={mend} />
        </Box>
      )}
      {whole && <Elsewhere workup={workup} drawing={drawing} />}
    </>
  );
}
