import { token } from '../theme';

/** Where the names of quarters stand, clockwise from the top, seen from A. */
const places = [['top', 'throat'], ['right'], ['underneath', 'back'], ['left']];

const MIDDLE = 36;
const RING = 24;

function arc(quarter: number): string {
  const at = (turn: number) => {
    const angle = (turn - 0.25) * 2 * Math.PI;
    return `${MIDDLE + RING * Math.cos(angle)} ${MIDDLE + RING * Math.sin(angle)}`;
  };
  const [from, to] = [quarter / 4 - 0.115, quarter / 4 + 0.115];
  return `M${at(from)}A${RING} ${RING} 0 0 1 ${at(to)}`;
}

/** The seam seen from A, its quarters numbered in the order they are welded. */
export function QuarterPicture({ quarters }: { quarters: readonly string[] }) {
  const mitred = quarters.includes('throat');
  return (
    <svg width={72} height={84} role='img' aria-label={`Seen from A: ${quarters.join(', ')}`}>
      {quarters.map((name, turn) => {
        const quarter = places.findIndex((names) => names.includes(name));
        const angle = (quarter / 4 - 0.25) * 2 * Math.PI;
        return (
          <g key={name}>
            <path
              d={arc(quarter)}
              fill='none'
              stroke={turn === 0 ? token.straw : token.seam}
              strokeWidth={turn === 0 ? 8 : 6}
            />
            <text
              x={MIDDLE + (RING - 12) * Math.cos(angle)}
              y={MIDDLE + (RING - 12) * Math.sin(angle) + 4.5}
              textAnchor='middle'
              fontSize={13}
              fontWeight={700}
              fill={token.ink}
            >
              {turn + 1}
            </text>
          </g>
        );
      })}
      <text x={MIDDLE} y={81} textAnchor='middle' fontSize={11.5} fill={token.inkSoft}>
        {mitred ? 'throat up' : 'top up'}
      </text>
    </svg>
  );
}
