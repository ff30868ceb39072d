import type { Workup } from '../api/generated/schema';
import { samePart, useBench } from '../kit/bench';
import { token } from '../theme';
import { BOTTOM, TOP } from './part';
import type { RodScale } from './scale';

const straightOf = (piece: Workup['pieces'][number]) =>
  piece.part.kind === 'straight' ? piece.part.straight : undefined;

/** Piece names over their stations. */
export function PieceMarks({ workup, scale }: { workup: Workup; scale: RodScale }) {
  const { selected, select } = useBench();
  const stations = (piece: Workup['pieces'][number]): [number, number] => {
    if (piece.part.kind === 'straight') {
      const straight = workup.straights[piece.part.straight];
      const [a, b] = workup.ends;
      // A name stands clear of the hoses.
      const first = piece.part.straight === 0 && a.hose ? a.seat.mm : 0;
      const last = piece.part.straight === workup.bends.length && b.hose ? b.seat.mm : 0;
      // What joints leave of the straight, from A.
      const on = workup.joints.filter((joint) => joint.straight === straightOf(piece));
      const part = workup.pieces.filter((one) => straightOf(one) === straightOf(piece)).indexOf(piece);
      const [before, after] = [on[part - 1], on[part]];
      return [
        before ? before.to.mm + before.seat.mm : (straight?.from.mm ?? 0) + first,
        after ? after.from.mm - after.seat.mm : (straight?.to.mm ?? 0) - last,
      ];
    }
    const welds = workup.bends[piece.part.bend]?.weld_stations ?? [];
    return [welds[piece.part.pie] ?? 0, welds[piece.part.pie + 1] ?? 0];
  };
  return (
    <g>
      {workup.pieces.map((piece, index) => {
        const [from, to] = stations(piece);
        const wide = (to - from) * scale.perMm > 26;
        const mine = samePart(selected, { part: 'piece', piece: index });
        return (
          // biome-ignore lint/a11y/noStaticElementInteractions: the cut list offers the same by keyboard
          <g
            key={piece.name}
            onClick={() => select({ part: 'piece', piece: index })}
            style={{ cursor: 'pointer' }}
          >
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
                fontSize={piece.part.kind === 'pie' ? 11 : 14}
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
