import type { HoseWorkup } from '../api/generated/schema';
import { token } from '../theme';
import { BOTTOM, TOP } from './part';
import type { RodScale } from './scale';

interface Props {
  hose: HoseWorkup;
  end: number;
  scale: RodScale;
  /** Whether its pieces are numbered, as they are where they are cut. */
  numbered: boolean;
}

/** Where the pieces of a moulded hose meet over their inserts. */
export function HoseMarks({ hose, end, scale, numbered }: Props) {
  if (hose.pieces.length === 0) return null;
  const meets = hose.meets.map((station) => station.mm);
  const insert = (hose.inserts?.length.mm ?? 0) / 2;
  const middles = hose.pieces.map((_, at) => ((meets[at - 1] ?? 0) + (meets[at] ?? end)) / 2);
  return (
    <g pointerEvents='none'>
      {meets.map((station) => (
        <g key={station}>
          <rect
            x={scale.x(station - insert)}
            y={TOP + 4}
            width={2 * insert * scale.perMm}
            height={BOTTOM - TOP - 8}
            fill='none'
            stroke={token.inkSoft}
            strokeDasharray='4 3'
          />
          <line
            x1={scale.x(station)}
            x2={scale.x(station)}
            y1={TOP - 6}
            y2={BOTTOM + 6}
            stroke={token.ink}
            strokeWidth={2}
          />
        </g>
      ))}
      {numbered &&
        middles.map((middle, at) => (
          <text
            key={middle}
            x={scale.x(middle)}
            y={BOTTOM - 13}
            textAnchor='middle'
            fontSize={14}
            fontWeight={600}
            fill={token.dyeDeep}
          >
            {at + 1}
          </text>
        ))}
    </g>
  );
}
