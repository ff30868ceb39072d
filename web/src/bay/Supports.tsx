import type { BayWorkup, SupportWorkup, Workup } from '../api/generated/schema';
import { samePart, useBench } from '../kit/bench';
import { token } from '../theme';
import { EngineSide } from './EngineSide';
import { matcap } from './matcaps';
import { RoundBar } from './RoundBar';

type Triple = [number, number, number];

/** How thick a stand-off is drawn, and how wide and thick the washer at its hole, in mm. */
const POST = 5;
const WASHER = 11;
const THICK = 3;

/** The feet of supports, from the pipe's skin to their holes; each goes with what it is fixed to. */
export function Supports({ workup, bay }: { workup: Workup; bay: BayWorkup | undefined }) {
  return workup.supports.map((support) => {
    const feet = <Feet key={support.support} run={workup.run} support={support} />;
    return support.fixed_to === 'engine' ? (
      <EngineSide key={support.support} bay={bay} still={false}>
        {feet}
      </EngineSide>
    ) : (
      feet
    );
  });
}

function Feet({ run, support }: { run: number; support: SupportWorkup }) {
  const { selected, press } = useBench();
  const part = { part: 'support' as const, run, support: support.support };
  const colour = samePart(selected, part) ? token.straw : token.sheet;
  return support.feet.map((foot) => {
    const from = foot.from as Triple;
    const hole = foot.hole as Triple;
    const long = Math.hypot(...hole.map((c, axis) => c - (from[axis] ?? 0)));
    if (long < 0.5) return null;
    const washer = hole.map((c, axis) => c + (((from[axis] ?? 0) - c) * THICK) / long) as Triple;
    const bar = (one: Triple, other: Triple, radius: number) => (
      <RoundBar
        from={one}
        to={other}
        radii={[radius, radius]}
        onClick={(event) => {
          event.stopPropagation();
          press(part);
        }}
      >
        <meshMatcapMaterial matcap={matcap('bright')} color={colour} />
      </RoundBar>
    );
    return (
      <group key={hole.join(' ')}>
        {bar(from, hole, POST)}
        {bar(washer, hole, WASHER)}
      </group>
    );
  });
}
