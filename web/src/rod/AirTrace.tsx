import type { ClearancePiece, ClearanceWorkup, Workup } from '../api/generated/schema';
import { figure, useBench } from '../kit/bench';
import { type Shown, shownColours } from '../kit/useShown';
import { token } from '../theme';
import type { RodScale } from './scale';

/** Pixels for the widest gap that is told apart. */
const DEEP = 30;

const fills: Record<ClearancePiece['state'], string> = {
  clear: token.clear,
  tight: token.straw,
  fouls: token.fouls,
};

interface Props {
  workup: Workup;
  air: ClearanceWorkup;
  /** Ways kept beside, whose gaps are drawn as lines over this one's. */
  beside: Shown[];
  scale: RodScale;
  top: number;
  /** Where the picture ends. */
  right: number;
}

/** The gap all along, hanging from the rod: the deeper, the more air; short and coloured where it is too little. */
export function AirTrace({ air, beside, scale, top, right }: Props) {
  const unit = useBench((bench) => bench.unit);
  const deep = (piece: ClearancePiece) => depth(piece.gap?.mm, air.of_interest.mm);
  const asked = (piece: ClearancePiece) =>
    depth(piece.thing == null ? 0 : air.things[piece.thing]?.limit.mm, air.of_interest.mm);
  const worst = worstOfEach(air);
  return (
    <g>
      <title>{said(air)}</title>
      <text
        x={Math.min(scale.x(air.trace.at(-1)?.to ?? 0) + 6, right - 20)}
        y={top + 12}
        fontSize={12}
        fill={token.inkSoft}
      >
        air
      </text>
      {air.trace.map((piece) => (
        <rect
          key={`${piece.from} ${piece.to}`}
          x={scale.x(piece.from)}
          y={top}
          width={Math.max(0.6, (piece.to - piece.from) * scale.perMm + 0.3)}
          height={Math.max(3, deep(piece))}
          fill={fills[piece.state]}
        />
      ))}
      {air.trace.map((piece) =>
        piece.thing == null || piece.state === 'clear' ? null : (
          // What is asked for, as a line to be reached.
          <line
            key={piece.from}
            x1={scale.x(piece.from)}
            x2={scale.x(piece.to)}
            y1={top + asked(piece)}
            y2={top + asked(piece)}
            stroke={token.ink}
            strokeDasharray='2 2'
          />
        ),
      )}
      {beside.map((way) => (
        <polyline
          key={way.name}
          points={drawnOver(way.workup.air?.trace ?? [])}
          fill='none'
          stroke={shownColours[way.colour]}
          strokeWidth={2}
        />
      ))}
      <line
        x1={scale.x(0)}
        x2={scale.x(air.trace.at(-1)?.to ?? 0)}
        y1={top}
        y2={top}
        stroke={token.metalEdge}
      />
      {worst.map(({ piece, name, x }) => (
        <text
          key={name}
          x={x}
          y={top + Math.max(3, deep(piece), asked(piece)) + 13}
          fontSize={12}
          fontWeight={700}
          textAnchor='middle'
          fill={piece.state === 'fouls' ? token.fouls : token.tightText}
          stroke={token.paper}
          strokeWidth={3}
          paintOrder='stroke'
        >
          {piece.state === 'fouls' ? '■' : '▲'} {piece.gap ? figure(piece.gap, unit) : ''} {name}
        </text>
      ))}
    </g>
  );

  /** Another way's gaps along this one's length: as far from A to B as it has come. */
  function drawnOver(trace: readonly ClearancePiece[]) {
    const stretched = (air.trace.at(-1)?.to ?? 0) / Math.max(trace.at(-1)?.to ?? 0, 1);
    return trace
      .map((piece) => `${scale.x(((piece.from + piece.to) / 2) * stretched)},${top + deep(piece)}`)
      .join(' ');
  }

  /** The worst piece of each thing that is too near, as many as have room for their names. */
  function worstOfEach({ trace, things }: ClearanceWorkup) {
    const short = trace.filter((piece) => piece.state !== 'clear' && piece.gap && piece.thing != null);
    const each = things.flatMap((thing, index) => {
      const mine = short.filter((piece) => piece.thing === index);
      const [least] = mine.sort((p, q) => (p.gap?.mm ?? 0) - (q.gap?.mm ?? 0));
      if (!least) return [];
      // Its name stays within the picture.
      const half = halfWide(thing.name);
      const x = Math.min(Math.max(scale.x((least.from + least.to) / 2), half + 4), right - half - 4);
      return [{ piece: least, name: thing.name, x }];
    });
    each.sort((p, q) => (p.piece.gap?.mm ?? 0) - (q.piece.gap?.mm ?? 0));
    const named: typeof each = [];
    for (const one of each) {
      if (named.every((other) => Math.abs(other.x - one.x) > halfWide(other.name) + halfWide(one.name)))
        named.push(one);
    }
    return named;
  }
}

/** About half the pixels that a thing's name and its gap take. */
const halfWide = (name: string) => (name.length + 8) * 3.3;

function depth(gap: number | undefined, most: number): number {
  return gap === undefined ? DEEP : (Math.min(Math.max(gap, 0), most) / most) * DEEP;
}

function said(air: ClearanceWorkup): string {
  const short = air.trace.filter((piece) => piece.state !== 'clear');
  return short.length === 0
    ? 'Air along the pipe: as much as is wanted everywhere'
    : `Air along the pipe: too little on ${short.length} of ${air.trace.length} pieces; the findings name them`;
}
