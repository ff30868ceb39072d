import type { SupportWorkup } from '../api/generated/schema';
import { sideNames } from '../measure/names';
import { token } from '../theme';
import { BOTTOM, Frame, Mark, onEnter, type PartProps, SLEEVE, TOP } from './part';

/** How far a foot stands below the stick, in pixels. */
const FOOT = 13;

/** A support under the stick, as long as it is along the pipe: dragged sideways it moves along it. */
export function SupportPart({
  support,
  scale,
  selected,
  severity,
  handlers,
  onSelect,
}: Omit<PartProps, 'index'> & { support: SupportWorkup }) {
  const from = scale.x(support.from.mm);
  const width = Math.max(5, scale.x(support.to.mm) - from);
  const middle = from + width / 2;
  const ground = BOTTOM + FOOT;
  const engine = support.fixed_to === 'engine';
  return (
    <g
      role='button'
      tabIndex={0}
      aria-pressed={selected}
      aria-label={`${support.name}, on the ${sideNames[support.fixed_to].toLowerCase()}`}
      onKeyDown={onEnter(onSelect)}
      style={{ cursor: 'ew-resize' }}
      {...handlers}
    >
      {support.kind === 'clamps' || support.kind === 'grommet' ? (
        <rect
          x={from}
          y={TOP - SLEEVE / 2}
          width={width}
          height={BOTTOM - TOP + SLEEVE}
          rx={support.kind === 'grommet' ? 3 : 0}
          fill={token.dye}
          opacity={0.9}
        />
      ) : (
        <rect x={from} y={BOTTOM - 3} width={width} height={6} fill={token.dye} />
      )}
      {support.kind !== 'grommet' && (
        <path
          d={`M${middle} ${BOTTOM} L${middle} ${ground} M${middle - 9} ${ground} L${middle + 9} ${ground}`}
          stroke={token.ink}
          strokeWidth={2}
          strokeDasharray={support.kind === 'hanger' ? '3 2' : undefined}
          fill='none'
        />
      )}
      {engine && (
        // What moves with the engine stands on a wheel of it.
        <circle cx={middle} cy={ground + 4} r={3} fill='none' stroke={token.ink} strokeWidth={1.5} />
      )}
      <rect x={middle - 10} y={TOP} width={20} height={ground - TOP} fill='transparent' />
      <Frame x={middle - Math.max(11, width / 2)} width={Math.max(22, width)} beyond={7} on={selected} />
      <Mark x={middle} severity={severity} />
    </g>
  );
}
