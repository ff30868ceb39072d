import type { BranchWorkup } from '../api/generated/schema';
import { token } from '../theme';
import { BOTTOM, Frame, Mark, onEnter, type PartProps, TOP } from './part';

/** How far one stands out of the stick, in pixels. */
const OUT = 12;

/** Something let into the stick: above it where it looks up, below it where it looks down, a ring on it at the side. Dragged
 * sideways it moves along it. */
export function BranchPart({
  branch,
  scale,
  selected,
  severity,
  handlers,
  onSelect,
}: Omit<PartProps, 'index'> & { branch: BranchWorkup }) {
  const x = scale.x(branch.at.mm);
  const width = Math.max(7, scale.x(branch.to.mm) - scale.x(branch.from.mm));
  const up = branch.out[2] ?? 0;
  const middle = (TOP + BOTTOM) / 2;
  const fill = branch.sits ? token.sheet : token.foulsPaper;
  return (
    <g
      role='button'
      tabIndex={0}
      aria-pressed={selected}
      aria-label={`${branch.name}, at ${branch.clock.toFixed(0)}° from up`}
      onKeyDown={onEnter(onSelect)}
      style={{ cursor: 'ew-resize' }}
      {...handlers}
    >
      {Math.abs(up) < 0.5 ? (
        <circle cx={x} cy={middle} r={width / 2} fill={fill} stroke={token.dye} strokeWidth={2} />
      ) : (
        <rect
          x={x - width / 2}
          y={up > 0 ? TOP - OUT : BOTTOM - 4}
          width={width}
          height={OUT + 4}
          fill={fill}
          stroke={token.dye}
          strokeWidth={2}
        />
      )}
      <rect x={x - 11} y={TOP - OUT} width={22} height={BOTTOM - TOP + 2 * OUT} fill='transparent' />
      <Frame x={x - Math.max(11, width / 2 + 3)} width={Math.max(22, width + 6)} beyond={OUT} on={selected} />
      <Mark x={x} severity={severity} />
    </g>
  );
}
