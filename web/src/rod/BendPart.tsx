import type { BendWorkup } from '../api/generated/schema';
import { degrees } from '../kit/bench';
import { textFont, token } from '../theme';
import { BOTTOM, Frame, Mark, onEnter, type PartProps, TOP } from './part';

/** A bend as a fan of its seams: dragged away from the stick it bends more. */
export function BendPart({
  bend,
  index,
  scale,
  selected,
  severity,
  handlers,
  onSelect,
}: PartProps & { bend: BendWorkup }) {
  const [x, to] = [scale.x(bend.from.mm), scale.x(bend.to.mm)];
  const above = bend.side === 'above';
  const edge = above ? TOP : BOTTOM;
  const bow = above ? edge - 18 : edge + 18;
  const middle = (x + to) / 2;
  return (
    <g
      role='button'
      tabIndex={0}
      aria-pressed={selected}
      aria-label={`Bend ${index + 1}, ${degrees(bend.angle)}, ${bend.welds} seams`}
      onKeyDown={onEnter(onSelect)}
      style={{ cursor: 'ns-resize' }}
      {...handlers}
    >
      <path
        d={`M${x} ${TOP}H${to}V${BOTTOM}H${x}Z M${x} ${edge}Q${middle} ${bow} ${to} ${edge}Z`}
        fill={selected ? token.strawSoft : token.metalDark}
        stroke={token.metalEdge}
      />
      {bend.weld_stations.map((station) => (
        <line
          key={station}
          x1={scale.x(station)}
          x2={scale.x(station)}
          y1={TOP}
          y2={BOTTOM}
          stroke={token.seam}
        />
      ))}
      <path
        d={`M${x} ${edge}Q${middle} ${bow} ${to} ${edge}`}
        fill='none'
        stroke={token.dye}
        strokeWidth={2}
      />
      <Frame x={x} width={to - x} beyond={2} on={selected} />
      <text
        x={middle}
        y={above ? TOP - 16 : BOTTOM + 28}
        textAnchor='middle'
        fontSize={17}
        fontWeight={700}
        fontFamily={textFont}
        fill={token.ink}
      >
        {degrees(bend.angle)}
      </text>
      <text
        // The number of a slight bend keeps off the length beside it, or the two read as one figure.
        x={to - x < 16 ? to - 1 : middle}
        y={above ? BOTTOM + 15 : TOP - 6}
        textAnchor={to - x < 16 ? 'end' : 'middle'}
        fontSize={12}
        fill={token.inkSoft}
      >
        {index + 1}
      </text>
      <Mark x={above ? middle : middle + 36} severity={severity} />
    </g>
  );
}
