import type { KeepOutWorkup } from '../api/generated/schema';
import { samePart, useBench } from '../kit/bench';
import type { Drawing } from '../kit/useDrawing';
import type { Shown } from '../kit/useShown';
import { token } from '../theme';
import { AirTint } from './AirTint';
import { DragHandle } from './DragHandle';
import { EndMark } from './EndMark';
import { EngineSide } from './EngineSide';
import { GhostPipe } from './GhostPipe';
import { KeepOutBody } from './KeepOutBody';
import { MovedMouths } from './MovedMouths';
import { OverTube } from './OverTube';
import { Pipe } from './Pipe';
import { ShapeHandles } from './ShapeHandles';
import { Survey } from './Survey';
import { useView, type View } from './useViews';

export interface SceneProps {
  drawing: Drawing;
  pickPieces: boolean;
  measuring: boolean;
  shaping: boolean;
  beside: Shown[];
  hovered: number | undefined;
  onHover: (id: number | undefined) => void;
  view: View;
  ask: number;
}

/** Everything that stands on the plate. */
export function Scene({
  drawing,
  pickPieces,
  measuring,
  shaping,
  beside,
  hovered,
  onHover,
  view,
  ask,
}: SceneProps) {
  const { workup, bay } = drawing;
  const { select, selected } = useBench();
  useView(view, ask, workup, bay?.keep_outs ?? []);
  const body = (keepOut: KeepOutWorkup) => (
    <KeepOutBody
      key={keepOut.keep_out}
      keepOut={keepOut}
      hovered={keepOut.keep_out === hovered}
      selected={samePart(selected, { part: 'keep_out', keep_out: keepOut.keep_out })}
      onHover={onHover}
      onPick={() => measuring && select({ part: 'keep_out', keep_out: keepOut.keep_out })}
    />
  );
  const all = bay?.keep_outs ?? [];
  return (
    <>
      <gridHelper
        args={[3000, 40, token.grid, token.gridFaint]}
        rotation={[Math.PI / 2, 0, 0]}
        position={[200, 0, -230]}
      />
      {all.filter((one) => one.rides === 'body').map(body)}
      <EngineSide bay={bay} still={!measuring}>
        {all.filter((one) => one.rides === 'engine').map(body)}
        {measuring && bay && <MovedMouths bay={bay} run={workup?.run} />}
      </EngineSide>
      {workup && <Pipe workup={workup} pickPieces={pickPieces} />}
      {workup && <OverTube workup={workup} />}
      {workup?.air && !measuring && <AirTint air={workup.air} radius={workup.od.mm / 2} />}
      {beside.map((way) => (
        <GhostPipe key={way.name} way={way} />
      ))}
      {workup && shaping && <ShapeHandles workup={workup} drawing={drawing} />}
      {workup?.ends.map((end) => (
        <EndMark key={end.end} end={end} workup={workup} />
      ))}
      {bay && measuring && <Survey bay={bay} run={workup?.run} />}
      {bay && <DragHandle bay={bay} drawing={drawing} measuring={measuring} />}
    </>
  );
}
