import type { BendWorkup, JointWorkup } from '../api/generated/schema';
import { degrees } from '../kit/bench';
import { textFont, token } from '../theme';
import { BOTTOM, Frame, Mark, onEnter, type PartProps, Sleeve, TOP } from './part';

/** A bend as a fan of its seams, or under the moulded hose in its place: dragged away from the stick it bends more. */
export function BendPart({
  bend,
  elbow,
  index,
  scale,
  selected,
  severity,
  handlers,
  onSelect,
}: PartProps & { bend: BendWorkup; elbow: JointWorkup | undefined }) {
  const [x, to] = [scale.x(bend.from.mm), scale.x(bend.to.mm)];
  const above = bend.side === 'above';
  const edge = above ? TOP : BOTTOM;
  const bow = above ? edge - 18 : edge + 18;
  const middle = (x + to) / 2;
  const hose = elbow && [elbow.from.mm - elbow.seat.mm, elbow.to.mm + elbow.seat.mm].map(scale.x);
  const made = elbow ? 'a moulded elbow' : bend.bought ? 'a bought elbow' : `${bend.welds} seams`;
  return (
    <g
      role='button'
      tabIndex={0}
      aria-pressed={selected}
      aria-label={`Bend ${index + 1}, ${degrees(bend.angle)}, ${made}`}
      onKeyDown={onEnter(onSelect)}
      style={{ cursor: 'ns-resize' }}
      {...handlers}
    >
      {hose && <Sleeve x={hose[0] ?? x} width={(hose[1] ?? to) - (hose[0] ?? x)} fill={token.ink} />}
      <path
        d={`M${x} ${TOP}H${to}V${BOTTOM}H${x}Z M${x} ${edge}Q${middle} ${bow} ${to} ${edge}Z`}
        fill={selected ? token.strawSoft : elbow ? token.inkSoft : token.metalDark}
        stroke={token.metalEdge}
      />
      {bend.weld_stations.map((station) => {
        const at = scale.x(station);
        // On a straight, where its length is written, a weld is a tick at either edge.
        const beyond = at < x - 0.5 || at > to + 0.5;
        const line = beyond ? `M${at} ${TOP}v8M${at} ${BOTTOM}v-8` : `M${at} ${TOP}V${BOTTOM}`;
        return <path key={station} d={line} stroke={token.seam} />;
      })}
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
