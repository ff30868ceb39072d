import { useCallback } from 'react';
import type { BuiltWorkup, KeepOutWorkup } from '../api/generated/schema';
import { samePart, useBench } from '../kit/bench';
import type { Drawing } from '../kit/useDrawing';
import type { Shown } from '../kit/useShown';
import { token } from '../theme';
import { AirTint } from './AirTint';
import { Boxes } from './Boxes';
import { BuiltPipe } from './BuiltPipe';
import { DragHandle } from './DragHandle';
import { EndMark } from './EndMark';
import { EngineSide } from './EngineSide';
import { GhostPipe } from './GhostPipe';
import { JointDrop } from './JointDrop';
import { KeepOutBody } from './KeepOutBody';
import type { Pointed } from './labelsOf';
import type { LitThings } from './lit';
import { MovedMouths } from './MovedMouths';
import { Dimension, NearLines } from './NearLines';
import { OtherPipes } from './OtherPipes';
import { Outlines, type Strength } from './Outlines';
import { OverTube } from './OverTube';
import { Pipe } from './Pipe';
import { ShapeHandles } from './ShapeHandles';
import { Supports } from './Supports';
import { Survey } from './Survey';
import type { GapBetween } from './useGap';
import { useSight } from './useSight';
import { useView, type View } from './useViews';

export interface SceneProps {
  drawing: Drawing;
  pickPieces: boolean;
  measuring: boolean;
  shaping: boolean;
  beside: Shown[];
  built: BuiltWorkup | undefined;
  lit: LitThings;
  pointed: Pointed;
  onPoint: (pointed: Partial<Pointed>) => void;
  onRun: (run: number) => void;
  gap: GapBetween | undefined;
  view: View;
  ask: number;
}

/** Everything that stands on the plate. */
export function Scene(props: SceneProps) {
  const { drawing, pickPieces, measuring, shaping, beside, lit, pointed, onPoint, onRun, gap, view, ask } =
    props;
  const { built } = props;
  const { workup, bay } = drawing;
  const { press, select, selected, stage, layers, between, sight } = useBench();
  const shown = useView(view, ask, workup, bay?.keep_outs ?? []);
  useSight(workup, bay, shown);
  const listed = measuring && (stage === 'boxes' || stage === 'way') ? stage : undefined;
  const looked = useCallback(
    (id: number) =>
      sight?.part.part === 'keep_out' && sight.against?.is === 'keep_out' && sight.against.keep_out === id,
    [sight],
  );
  const strengthOf = useCallback(
    (keepOut: KeepOutWorkup): Strength => {
      const known = lit.keepOuts.get(keepOut.keep_out)?.look;
      if (known === 'lit' || (known && (!measuring || looked(keepOut.keep_out)))) return known;
      if (keepOut.keep_out === pointed.keepOut) return 'near';
      const asked = listed && (listed === 'boxes') === keepOut.big;
      return asked ? 'plain' : 'faint';
    },
    [lit, measuring, pointed.keepOut, listed, looked],
  );
  const all = (bay?.keep_outs ?? []).filter((one) => layers[one.rides]);
  const side = (rides: KeepOutWorkup['rides']) => all.filter((one) => one.rides === rides);
  const body = (keepOut: KeepOutWorkup) => {
    const look = lit.keepOuts.get(keepOut.keep_out)?.look;
    return (
      <KeepOutBody
        key={keepOut.keep_out}
        keepOut={keepOut}
        look={measuring && look !== 'lit' && !looked(keepOut.keep_out) ? undefined : look}
        hovered={keepOut.keep_out === pointed.keepOut}
        onHover={(id) => onPoint({ keepOut: id })}
        onPick={() => {
          if (measuring || between) press({ part: 'keep_out', keep_out: keepOut.keep_out });
          else select({ part: 'nothing' });
        }}
      />
    );
  };
  // The tint is of the pipe as it stands.
  const still = useBench((bench) => bench.roll === 0 && bench.pose === undefined);
  return (
    <>
      <gridHelper
        args={[3000, 20, token.grid, token.gridFaint]}
        rotation={[Math.PI / 2, 0, 0]}
        position={[200, 0, -230]}
      />
      <Outlines keepOuts={side('body')} strengthOf={strengthOf} />
      {side('body').map(body)}
      <EngineSide bay={bay} still={false}>
        <Outlines keepOuts={side('engine')} strengthOf={strengthOf} />
        {side('engine').map(body)}
        {bay && <MovedMouths bay={bay} run={workup?.run} />}
      </EngineSide>
      {bay && layers.others && (
        <OtherPipes
          bay={bay}
          run={workup?.run}
          lit={lit.runs}
          hovered={pointed.run}
          onHover={(run) => onPoint({ run })}
          onPick={(run) => (between ? press({ part: 'run', run }) : onRun(run))}
        />
      )}
      {workup && !built && <Pipe workup={workup} bay={bay} pickPieces={pickPieces} />}
      {workup && built && <BuiltPipe run={workup.run} built={built} radius={workup.od.mm / 2} />}
      {workup && built && <GhostPipe way={{ name: 'planned', workup, colour: 0 }} />}
      {workup && <OverTube workup={workup} bay={bay} openAtB={built !== undefined} />}
      {workup && <Supports workup={workup} bay={bay} />}
      {workup?.air && !measuring && !built && still && <AirTint air={workup.air} radius={workup.od.mm / 2} />}
      {workup && <JointDrop workup={workup} drawing={drawing} />}
      {!measuring && <NearLines lit={[...lit.keepOuts.values(), ...lit.runs.values()]} />}
      {gap?.is === 'known' && <Dimension line={gap.gap} colour={token.sheet} />}
      {beside.map((way) => (
        <GhostPipe key={way.name} way={way} />
      ))}
      {workup && shaping && <ShapeHandles workup={workup} drawing={drawing} />}
      {workup?.ends.map((end) => (
        <EndMark key={end.end} end={end} workup={workup} open={built !== undefined && end.end === 'b'} />
      ))}
      {bay && measuring && <Survey bay={bay} run={workup?.run} />}
      {bay && measuring && <Boxes bay={bay} />}
      {bay && !samePart(selected, { part: 'nothing' }) && (
        <DragHandle bay={bay} drawing={drawing} measuring={measuring} />
      )}
    </>
  );
}
