import { Line } from '@react-three/drei';
import { useMemo } from 'react';
import { Matrix4, Vector3 } from 'three';
import type { BayWorkup, EstimateWorkup } from '../api/generated/schema';
import { type Selected, samePart, useBench } from '../kit/bench';
import { token } from '../theme';

type Triple = [number, number, number];

/** Error ellipsoids are drawn this many times their size, or nobody would see them. */
export const MAGNIFIED = 10;

interface Props {
  bay: BayWorkup;
  /** The run on the bench, whose ends can be selected. */
  run: number | undefined;
}

/** What is selected, among things that are measured. */
export function measuredThing(bay: BayWorkup, selected: Selected, run: number | undefined) {
  if (selected.part === 'datum') return bay.datums.find((one) => one.datum === selected.datum);
  if (selected.part === 'keep_out') return bay.keep_outs.find((one) => one.keep_out === selected.keep_out);
  if (selected.part === 'end') {
    return bay.ports.find((one) => one.port.run === run && one.port.end === selected.end);
  }
  return undefined;
}

/** Datum points, and for the selected thing its tapes, its error and the other place it could be. */
export function Survey({ bay, run }: Props) {
  const { selected, press } = useBench();
  const thing = measuredThing(bay, selected, run);
  return (
    <group>
      {bay.datums.map((datum) => {
        const lit = samePart(selected, { part: 'datum', datum: datum.datum });
        return (
          // biome-ignore lint/a11y/noStaticElementInteractions: the list on the bench pad offers the same by keyboard
          <mesh
            key={datum.datum}
            position={datum.at.map((c) => c.mm) as Triple}
            onClick={(event) => {
              event.stopPropagation();
              press({ part: 'datum', datum: datum.datum });
            }}
          >
            <octahedronGeometry args={[lit ? 13 : 9]} />
            <meshBasicMaterial color={lit ? token.straw : token.sheet} />
          </mesh>
        );
      })}
      {thing && <Tapes found={thing.found} />}
      {thing?.found.ellipsoid && (
        <Ellipsoid at={thing.at.map((c) => c.mm) as Triple} axes={thing.found.ellipsoid as Triple[]} />
      )}
      {thing?.found.other && thing.found.other_out && (
        <Line points={stickOut(thing.found.other, thing.found.other_out)} color={token.straw} lineWidth={2} />
      )}
      {thing?.found.other && (
        <mesh position={thing.found.other}>
          <octahedronGeometry args={[16]} />
          <meshBasicMaterial color={token.straw} wireframe />
        </mesh>
      )}
    </group>
  );
}

/** The line on which a mouth at a place would point out. */
function stickOut(at: Triple, out: Triple): Triple[] {
  const end = at.map((c, axis) => c + (out[axis] ?? 0) * 120) as Triple;
  return [at, end];
}

/** The colour of a reading: it agrees, is strained, or chance does not explain it. */
function colourOf(strain: number, counts: boolean): string {
  if (strain > 1) return token.strained;
  if (!counts) return '#8f88c9';
  return strain > 0.6 ? token.straw : '#ffffff';
}

function Tapes({ found }: { found: EstimateWorkup }) {
  return found.readings.map((reading, index) =>
    reading.line ? (
      <Line
        // biome-ignore lint/suspicious/noArrayIndexKey: readings are named by their place
        key={index}
        points={reading.line as Triple[]}
        color={colourOf(reading.strain, reading.counts)}
        lineWidth={reading.suspect ? 2.5 : 1.4}
        dashed={!reading.counts}
        dashSize={14}
        gapSize={9}
        transparent
        opacity={0.9}
      />
    ) : null,
  );
}

function Ellipsoid({ at, axes }: { at: Triple; axes: Triple[] }) {
  const place = useMemo(() => {
    const [x, y, z] = axes.map((axis) => new Vector3(...axis).multiplyScalar(MAGNIFIED));
    if (!x || !y || !z) return new Matrix4();
    return new Matrix4().makeBasis(x, y, z).setPosition(new Vector3(...at));
  }, [at, axes]);
  return (
    <group matrix={place} matrixAutoUpdate={false}>
      <mesh>
        <sphereGeometry args={[1, 28, 18]} />
        <meshBasicMaterial
          color={token.straw}
          transparent
          opacity={0.22}
          depthWrite={false}
          depthTest={false}
        />
      </mesh>
      <mesh>
        <sphereGeometry args={[1, 12, 6]} />
        <meshBasicMaterial color={token.straw} wireframe transparent opacity={0.4} depthTest={false} />
      </mesh>
    </group>
  );
}
