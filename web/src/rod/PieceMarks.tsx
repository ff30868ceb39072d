import type { Workup } from '../api/generated/schema';
import { samePart, useBench } from '../kit/bench';
import { token } from '../theme';
import { BOTTOM, TOP } from './part';
import type { RodScale } from './scale';

/** Piece names over their stations. */
export function PieceMarks({ workup, scale }: { workup: Workup; scale: RodScale }) {
  const { selected, select } = useBench();
  const stations = (piece: Workup['pieces'][number]): [number, number] => {
    if (piece.piece.kind === 'tube') {
      // A name stands clear of the hoses.
      const [before, after] = piece.hoses.map((hose) => hose.mm);
      return [piece.from.mm + (before ?? 0), piece.to.mm - (after ?? 0)];
    }
    return [piece.from.mm, piece.to.mm];
  };
  return (
    <g>
      {workup.pieces.map((piece) => {
        const part = { part: 'piece', run: workup.run, piece: piece.piece } as const;
        const [from, to] = stations(piece);
        const wide = (to - from) * scale.perMm > 26;
        const mine = samePart(selected, part);
        return (
          // biome-ignore lint/a11y/noStaticElementInteractions: the cut list offers the same by keyboard
          <g key={piece.name} onClick={() => select(part)} style={{ cursor: 'pointer' }}>
            <rect
              x={scale.x(from)}
              y={TOP}
              width={Math.max(1, (to - from) * scale.perMm)}
              height={BOTTOM - TOP}
              fill={mine ? token.straw : 'transparent'}
              opacity={0.55}
            />
            {(wide || mine) && (
              <text
                x={scale.x((from + to) / 2)}
                y={BOTTOM - 13}
                textAnchor='middle'
                fontSize={piece.piece.kind === 'pie' ? 11 : 14}
                fontWeight={600}
                fill={token.dyeDeep}
              >
                {wide ? piece.name : ''}
              </text>
            )}
          </g>
        );
      })}
    </g>
  );
}
