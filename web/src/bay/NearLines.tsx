import { Line } from '@react-three/drei';
import { Vector3 } from 'three';
import type { NearLine } from '../api/generated/schema';
import { token } from '../theme';
import type { Lit, LitLook } from './lit';
import { across } from './placing';

/** Half the length of the strokes at the ends of a dimension line, mm. */
const STROKE = 9;

const colours: Record<LitLook, string> = {
  fouls: token.foulsOnDye,
  tight: token.tightOnDye,
  near: token.scribe,
  lit: token.straw,
};

/** The gap to what matters, as a dimension line between the two nearest places as they stand. */
export function NearLines({ lit }: { lit: Iterable<Lit> }) {
  return [...lit].flatMap(({ look, near }) =>
    near?.line && look !== 'near'
      ? [<Dimension key={near.name} line={near.line} colour={colours[look]} />]
      : [],
  );
}

/** A line between two places with a stroke across at either end. */
export function Dimension({ line, colour }: { line: Pick<NearLine, 'from' | 'to'>; colour: string }) {
  const [from, to] = [new Vector3(...line.from), new Vector3(...line.to)];
  const way = to.clone().sub(from);
  const along = way.lengthSq() > 1e-6 ? way.normalize() : new Vector3(0, 0, 1);
  const [u, v] = across(along);
  const strokes = [from, to].flatMap((end) =>
    [u, v].map((side) => [
      end.clone().addScaledVector(side, -STROKE).toArray(),
      end.clone().addScaledVector(side, STROKE).toArray(),
    ]),
  );
  return [[line.from, line.to], ...strokes].map((points, index) => (
    <Line
      // biome-ignore lint/suspicious/noArrayIndexKey: five lines, always in this order
      key={index}
      points={points as [number, number, number][]}
      color={colour}
      lineWidth={2.2}
      depthTest={false}
      renderOrder={5}
    />
  ));
}
