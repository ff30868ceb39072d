import { useEffect, useMemo } from 'react';
import { BufferGeometry, Color, Float32BufferAttribute } from 'three';
import type { KeepOutWorkup } from '../api/generated/schema';
import { token } from '../theme';
import type { LitLook } from './lit';
import { segmentsOf, swung } from './outline';

/** How strongly a thing is scribed. */
export type Strength = LitLook | 'plain' | 'faint';

const strengths: Record<Strength, { colour: string; opacity: number; detailed: boolean }> = {
  lit: { colour: token.straw, opacity: 1, detailed: true },
  fouls: { colour: token.foulsOnDye, opacity: 1, detailed: true },
  tight: { colour: token.tightOnDye, opacity: 1, detailed: true },
  near: { colour: token.scribe, opacity: 0.95, detailed: true },
  plain: { colour: token.scribe, opacity: 0.62, detailed: true },
  faint: { colour: token.scribe, opacity: 0.26, detailed: false },
};

/** How often a swinging thing is drawn over its range, its place at rest not counted. */
const SWEPT = 5;
const noRay = () => null;

interface Props {
  keepOuts: readonly KeepOutWorkup[];
  strengthOf: (keepOut: KeepOutWorkup) => Strength;
}

/**
 * The scribed lines of many things as one drawing: hair lines, since wide ones cost a software screen dear. What recedes is
 * mixed into the dye by its colour, so that one drawing does for all.
 */
export function Outlines({ keepOuts, strengthOf }: Props) {
  const geometry = useMemo(() => {
    const [positions, colours]: [number[], number[]] = [[], []];
    const dye = new Color(token.dye);
    const draw = (pairs: readonly number[], colour: string, opacity: number) => {
      positions.push(...pairs);
      const mixed = dye.clone().lerp(new Color(colour), opacity).toArray();
      for (let k = 0; k < pairs.length / 3; k += 1) colours.push(...mixed);
    };
    for (const keepOut of keepOuts) {
      const { colour, opacity, detailed } = strengths[strengthOf(keepOut)];
      const missing = keepOut.standing === 'missing';
      draw(segmentsOf(keepOut, detailed), colour, missing ? opacity * 0.6 : opacity);
      const { swing } = keepOut;
      if (!swing || !detailed) continue;
      const bare = segmentsOf(keepOut, false);
      for (let k = 0; k < SWEPT; k += 1) {
        const turn = swing.from + ((swing.to - swing.from) * k) / (SWEPT - 1);
        if (Math.abs(turn) > 0.01) draw(swung(bare, swing, turn), colour, opacity * 0.4);
      }
    }
    const made = new BufferGeometry();
    made.setAttribute('position', new Float32BufferAttribute(positions, 3));
    made.setAttribute('color', new Float32BufferAttribute(colours, 3));
    return made;
  }, [keepOuts, strengthOf]);
  useEffect(() => () => geometry.dispose(), [geometry]);
  return (
    // After the bodies, which hide what is behind them: bodies are drawn with what can be seen through.
    <lineSegments geometry={geometry} raycast={noRay} renderOrder={1}>
      <lineBasicMaterial vertexColors transparent />
    </lineSegments>
  );
}
