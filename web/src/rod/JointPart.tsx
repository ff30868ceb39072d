import type { JointWorkup } from '../api/generated/schema';
import { length, useBench } from '../kit/bench';
import { token } from '../theme';
import { BOTTOM, Frame, Mark, onEnter, type PartProps, SLEEVE, Sleeve, TOP } from './part';

/** A joint between the ends, as long as its hose, with the gap in it: dragged sideways it moves along the pipe. */
export function JointPart({
  joint,
  scale,
  selected,
  severity,
  handlers,
  onSelect,
}: Omit<PartProps, 'index'> & { joint: JointWorkup }) {
  const unit = useBench((bench) => bench.unit);
  const beyond = joint.hose ? joint.seat.mm : joint.straight_needed.mm;
  const from = scale.x(joint.from.mm - beyond);
  const to = scale.x(joint.to.mm + beyond);
  const middle = (from + to) / 2;
  const gap = Math.max(1.5, joint.gap.mm * scale.perMm);
  return (
    <g
      role='button'
      tabIndex={0}
      aria-pressed={selected}
      aria-label={joint.hose ? `${joint.name}, cut ${length(joint.hose, unit)}` : joint.name}
      onKeyDown={onEnter(onSelect)}
      style={{ cursor: 'ew-resize' }}
      {...handlers}
    >
      {joint.hose ? (
        <Sleeve x={from} width={to - from} fill={token.ink} />
      ) : (
        <rect x={from} y={TOP} width={to - from} height={BOTTOM - TOP} fill={token.metalDark} />
      )}
      <rect
        x={middle - gap / 2}
        y={joint.hose ? TOP : TOP - SLEEVE}
        width={gap}
        height={BOTTOM - TOP + (joint.hose ? 0 : 2 * SLEEVE)}
        fill={joint.hose ? token.metalEdge : token.dye}
      />
      <Frame x={from} width={to - from} beyond={7} on={selected} />
      <Mark x={middle} severity={severity} />
    </g>
  );
}
