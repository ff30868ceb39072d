import type { JointWorkup } from '../api/generated/schema';
import { length, useBench } from '../kit/bench';
import { token } from '../theme';
import { BOTTOM, Frame, Mark, onEnter, type PartProps, Sleeve, TOP } from './part';

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
  const from = scale.x(joint.from.mm - joint.seat.mm);
  const to = scale.x(joint.to.mm + joint.seat.mm);
  const middle = (from + to) / 2;
  const gap = Math.max(1.5, joint.gap.mm * scale.perMm);
  return (
    <g
      role='button'
      tabIndex={0}
      aria-pressed={selected}
      aria-label={`${joint.name}, cut ${length(joint.hose, unit)}`}
      onKeyDown={onEnter(onSelect)}
      style={{ cursor: 'ew-resize' }}
      {...handlers}
    >
      <Sleeve x={from} width={to - from} fill={token.ink} />
      <rect x={middle - gap / 2} y={TOP} width={gap} height={BOTTOM - TOP} fill={token.metalEdge} />
      <Frame x={from} width={to - from} beyond={7} on={selected} />
      <Mark x={middle} severity={severity} />
    </g>
  );
}
