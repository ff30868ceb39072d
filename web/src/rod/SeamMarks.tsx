import type { SeamWorkup } from '../api/generated/schema';
import { samePart, useBench } from '../kit/bench';
import { token } from '../theme';
import { BOTTOM, TOP } from './part';
import type { RodScale } from './scale';

/** Pixels under which two numbers would stand on each other. */
const APART = 21;
/** Numbers stand under the bends' own, where other steps draw the air: two rows of them. */
const NUMBERS = 124;
const ROW = 16;

/** Seams at their stations with the numbers written beside them on the metal; the next to weld in straw. */
export function SeamMarks({ seams, scale }: { seams: readonly SeamWorkup[]; scale: RodScale }) {
  const { selected, select } = useBench();
  const next = Math.min(...seams.filter((seam) => !seam.welded).map((seam) => seam.turn));
  let last = Number.NEGATIVE_INFINITY;
  let row = 0;
  return (
    <g>
      {seams.map((seam) => {
        const x = scale.x(seam.station.mm);
        // Seams of one bend stand close: their numbers take turns in two rows.
        row = x - last < APART ? (row + 1) % 2 : 0;
        last = x;
        const mine = samePart(selected, seam.part);
        const lit = mine || seam.turn === next;
        return (
          // biome-ignore lint/a11y/noStaticElementInteractions: the list of seams offers the same by keyboard
          <g key={seam.number} onClick={() => select(seam.part)} style={{ cursor: 'pointer' }}>
            <line
              x1={x}
              x2={x}
              y1={TOP - 2}
              y2={BOTTOM + 2}
              stroke={lit ? token.straw : seam.welded ? token.dye : token.seam}
              strokeWidth={lit ? 4 : 2}
            />
            <text
              x={x}
              y={NUMBERS + row * ROW}
              textAnchor='middle'
              fontSize={13}
              fontWeight={lit ? 700 : 400}
              fill={token.ink}
            >
              {seam.number}
              {seam.welded ? '✓' : ''}
            </text>
          </g>
        );
      })}
    </g>
  );
}
