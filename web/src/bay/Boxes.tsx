import { Line } from '@react-three/drei';
import type { BayWorkup, PairLine } from '../api/generated/schema';
import { type Selected, type Sight, useBench } from '../kit/bench';
import { token } from '../theme';
import { Dimension } from './NearLines';

type Triple = [number, number, number];

/** What belongs to the big things beside their bodies: openings, brackets, and the gap where two things come too near. */
export function Boxes({ bay }: { bay: BayWorkup }) {
  const { selected, sight } = useBench();
  const closed = (outline: Triple[]) => [...outline, ...outline.slice(0, 1)];
  return (
    <group>
      {bay.openings.map((one) => {
        const lit = selected.part === 'opening' && selected.opening === one.opening;
        const breathes = bay.components.some(
          (whole) =>
            whole.breathing?.through === one.opening &&
            selected.part === 'component' &&
            selected.component === whole.component,
        );
        return (
          <Line
            key={one.opening}
            points={closed(one.outline.map((point) => point.map((c) => c.mm) as Triple))}
            color={lit ? token.straw : token.scribe}
            transparent
            opacity={lit || breathes ? 1 : 0.45}
            lineWidth={lit || breathes ? 2.2 : 1.2}
            dashed
            dashSize={16}
            gapSize={9}
          />
        );
      })}
      {bay.components.flatMap((whole) =>
        whole.placing.mounts.map((mount) => {
          const lit =
            selected.part === 'mount' &&
            selected.component === whole.component &&
            selected.mount === mount.mount;
          const shown = lit || (selected.part === 'component' && selected.component === whole.component);
          return (
            <group key={mount.mount}>
              <mesh position={mount.at.map((c) => c.mm) as Triple}>
                <sphereGeometry args={[lit ? 8 : 5, 12, 8]} />
                <meshBasicMaterial color={lit ? token.straw : token.scribe} />
              </mesh>
              {mount.bracket && (
                <Line
                  points={mount.bracket.line as Triple[]}
                  color={lit ? token.straw : shown ? token.sheet : token.scribe}
                  lineWidth={shown ? 5 : 2.5}
                />
              )}
            </group>
          );
        }),
      )}
      {bay.pairs
        .filter((pair) => matters(bay, pair, selected, sight))
        .map((pair) => (
          <Dimension
            key={pair.things.join()}
            line={pair}
            colour={pair.gap.mm <= 0 ? token.foulsOnDye : token.tightOnDye}
          />
        ))}
    </group>
  );
}

/** Whether a pair is of what is selected, or is looked at. */
function matters(bay: BayWorkup, pair: PairLine, selected: Selected, sight: Sight | undefined): boolean {
  if (pair.as_measured) return false;
  const against = sight?.against?.is === 'keep_out' ? sight.against.keep_out : undefined;
  if (sight?.part.part === 'keep_out' && against !== undefined) {
    return pair.things.includes(sight.part.keep_out) && pair.things.includes(against);
  }
  return bodyOf(bay, selected).some((id) => pair.things.includes(id));
}

/** The keep-outs that what is selected consists of. */
export function bodyOf(bay: BayWorkup | undefined, selected: Selected): number[] {
  if (selected.part === 'keep_out') return [selected.keep_out];
  if (selected.part !== 'component' && selected.part !== 'mount') return [];
  return bay?.components.find((one) => one.component === selected.component)?.body ?? [];
}
