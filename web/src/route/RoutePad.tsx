import type { JobState, Workup } from '../api/generated/schema';
import { EndPad } from '../join/EndPad';
import { useBench } from '../kit/bench';
import { Findings } from '../kit/Findings';
import type { Drawing } from '../kit/useDrawing';
import { BendPad } from './BendPad';
import { RunPad } from './RunPad';
import { StraightPad } from './StraightPad';
import { WaysRound } from './WaysRound';

interface Props {
  state: JobState;
  workup: Workup;
  drawing: Drawing;
}

/** The bench pad of the Route step: the one thing selected, what is wrong, and other ways round. */
export function RoutePad({ state, workup, drawing }: Props) {
  const selected = useBench((bench) => bench.selected);
  return (
    <>
      {selected.part === 'bend' && workup.bends[selected.bend] ? (
        <BendPad key={selected.bend} workup={workup} index={selected.bend} drawing={drawing} />
      ) : selected.part === 'straight' && workup.straights[selected.straight] ? (
        <StraightPad key={selected.straight} workup={workup} index={selected.straight} drawing={drawing} />
      ) : selected.part === 'end' ? (
        <EndPad key={selected.end} workup={workup} end={selected.end} drawing={drawing} />
      ) : (
        <RunPad workup={workup} drawing={drawing} />
      )}
      <Findings findings={workup.findings} selected={selected} onMend={(edit) => void drawing.keep(edit)} />
      <WaysRound state={state} workup={workup} drawing={drawing} />
    </>
  );
}
