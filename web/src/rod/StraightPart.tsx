import type { StraightWorkup } from '../api/generated/schema';
import { figure, useBench } from '../kit/bench';
import { token } from '../theme';
import { longestFree } from './longestFree';
import { BOTTOM, Frame, Mark, onEnter, type PartProps, SLEEVE, TOP } from './part';

/** A straight: dragged sideways it grows or shrinks. */
export function StraightPart({
  straight,
  index,
  scale,
  selected,
  severity,
  covered,
  taken,
  bare,
  handlers,
  onSelect,
}: PartProps & {
  straight: StraightWorkup;
  covered: readonly [number, number];
  taken: (readonly [number, number])[];
  bare: boolean;
}) {
  const unit = useBench((bench) => bench.unit);
  const [from, to] = [straight.from.mm, straight.to.mm].sort((p, q) => p - q) as [number, number];
  const [x, width] = [scale.x(from), Math.max(2, (to - from) * scale.perMm)];
  // The figure stands in the longest part that nothing covers.
  const [free, until] = longestFree([from + covered[0], to - covered[1]], taken);
  const middle = scale.x((free + until) / 2);
  const room = (until - free) * scale.perMm;
  const negative = straight.length.mm < 0;
  const text = figure(straight.length, unit);
  return (
    <g
      role='button'
      tabIndex={0}
      aria-pressed={selected}
      aria-label={`Straight ${index + 1}, ${text} ${unit}`}
      onKeyDown={onEnter(onSelect)}
      style={{ cursor: 'ew-resize' }}
      {...handlers}
    >
      <rect
        x={x}
        y={TOP}
        width={width}
        height={BOTTOM - TOP}
        fill={negative ? token.foulsPaper : selected ? token.strawPaper : token.metal}
        stroke={negative ? token.fouls : token.metalEdge}
      />
      <Frame x={x} width={width} beyond={2} on={selected} />
      {selected && width > 34 && (
        <path
          d={`M${x + width - 9} ${TOP + 12}l6 6-6 6M${x + 9} ${TOP + 12}l-6 6 6 6`}
          fill='none'
          stroke={token.ink}
          strokeWidth={1.5}
        />
      )}
      {bare ? null : room > 44 ? (
        <text x={middle} y={TOP + 24} textAnchor='middle' fontSize={15} fill={token.ink} fontWeight={500}>
          {text}
        </text>
      ) : (
        <text
          x={Math.min(Math.max(middle, x + 20), Math.max(x + width - 10, x + 18))}
          // Clear of the hose, which stands out below the stick.
          y={BOTTOM + SLEEVE + 13}
          textAnchor='middle'
          fontSize={12}
          fill={token.ink}
        >
          {text}
        </text>
      )}
      <Mark x={x + width / 2} severity={severity} />
    </g>
  );
}
