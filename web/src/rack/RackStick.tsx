import type { RackRod } from '../api/generated/schema';
import { degrees } from '../kit/bench';
import { headingFont, token } from '../theme';
import { spaced } from './spaced';

interface Props {
  rod: RackRod;
  /** What it is, for who does not see it. */
  name: string;
  /** Pixels per millimetre, the same for all that hang beside each other. */
  perMm: number;
  height: number;
  /** Without figures, as a sign of itself. */
  small?: boolean;
}

/** Pixels that a slim tube is drawn wide at least. */
const SLIM = 4;
/** Pixels from the stick to the top of a bend's bow. */
const BOW = 9;
const FIGURE = 34;

/** How long a run is on the rack, hoses past its ends included, in mm. */
export const reachOf = ({ beyond, length }: RackRod) => beyond[0] + length + beyond[1];

/** A run's stick in true proportion: as long and as thick as it is, with its bends, joints and where it has too little air. */
export function RackStick({ rod, name, perMm, height, small }: Props) {
  const thick = Math.max(SLIM, rod.od * perMm);
  const [top, bottom] = [(height - thick) / 2, (height + thick) / 2];
  const x = (station: number) => 1 + (rod.beyond[0] + station) * perMm;
  const bow = small ? BOW / 3 : BOW;
  const bends = rod.bends.map((bend) => ({ ...bend, middle: x((bend.from + bend.to) / 2) }));
  const figures = small
    ? []
    : (['above', 'below'] as const).flatMap((side) =>
        spaced(
          bends.filter((bend) => bend.side === side),
          FIGURE,
        ),
      );
  const clear = { fill: token.metal, stroke: token.metalEdge };
  const said = `${name}, ${Math.round(rod.length)} mm of tube, ${rod.bends.length} bends`;
  return (
    <svg
      width={reachOf(rod) * perMm + 2}
      height={height}
      role='img'
      aria-label={said}
      style={{ display: 'block', overflow: 'visible' }}
    >
      <rect x={x(0)} y={top} width={rod.length * perMm} height={thick} {...clear} />
      {bends.map((bend) => {
        const edge = bend.side === 'above' ? top : bottom;
        const peak = bend.side === 'above' ? edge - 2 * bow : edge + 2 * bow;
        const [from, to] = [x(bend.from), x(bend.to)];
        return (
          <g key={bend.bend}>
            <rect x={from} y={top} width={to - from} height={thick} fill={token.metalDark} />
            {!small &&
              bend.welds.map((weld) => (
                <line key={weld} x1={x(weld)} x2={x(weld)} y1={top} y2={bottom} stroke={token.seam} />
              ))}
            <path
              d={`M${from} ${edge}Q${bend.middle} ${peak} ${to} ${edge}`}
              fill='none'
              stroke={token.dye}
              strokeWidth={small ? 1.2 : 1.8}
            />
          </g>
        );
      })}
      {!small &&
        rod.splices.map((splice) => (
          <line key={splice} x1={x(splice)} x2={x(splice)} y1={top} y2={bottom} stroke={token.seam} />
        ))}
      {rod.holes.map((hole) => {
        const [from, to] = [x(hole[0] ?? 0), x(hole[1] ?? 0)];
        const radius = Math.max(1.5, Math.min((to - from) / 2, thick / 2 - 1));
        return (
          <circle
            key={from}
            cx={(from + to) / 2}
            cy={height / 2}
            r={radius}
            fill={token.sheet}
            stroke={token.dye}
            strokeWidth={small ? 1 : 1.5}
          />
        );
      })}
      {rod.short.map((short) => (
        <rect
          key={short.from}
          x={x(Math.max(short.from, -rod.beyond[0]))}
          y={bottom - Math.min(thick, 4)}
          width={Math.max(2, (short.to - Math.max(short.from, -rod.beyond[0])) * perMm)}
          height={Math.min(thick, 4) + 1}
          fill={short.state === 'fouls' ? token.fouls : token.straw}
        />
      ))}
      {[
        [-rod.beyond[0], rod.seats[0]],
        ...rod.joints,
        [rod.length - rod.seats[1], rod.length + rod.beyond[1]],
      ].map(([from = 0, to = 0]) => (
        <rect
          key={from}
          x={x(from)}
          y={top - 2}
          width={Math.max(3, (to - from) * perMm)}
          height={thick + 4}
          fill={token.ink}
        />
      ))}
      {figures.map((bend) => (
        <text
          key={bend.bend}
          x={bend.middle}
          y={bend.side === 'above' ? top - BOW - 3 : bottom + BOW + 12}
          textAnchor='middle'
          fontFamily={headingFont}
          fontSize={14}
          fontWeight={600}
          fill={token.ink}
        >
          {degrees(bend.angle, 0)}
        </text>
      ))}
    </svg>
  );
}
