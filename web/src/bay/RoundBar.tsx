import type { ThreeElements } from '@react-three/fiber';
import type { ReactNode } from 'react';
import { useMemo } from 'react';
import { Quaternion, Vector3 } from 'three';

type Triple = readonly [number, number, number];

interface Props {
  from: Triple;
  to: Triple;
  /** Radius at `from` and at `to`, mm. */
  radii: readonly [number, number];
  open?: boolean;
  children: ReactNode;
  onClick?: ThreeElements['mesh']['onClick'];
}

const UP = new Vector3(0, 1, 0);

/** A round bar or cone between two points. */
export function RoundBar({ from, to, radii, open = false, children, onClick }: Props) {
  const { middle, turn, length } = useMemo(() => {
    const [start, end] = [new Vector3(...from), new Vector3(...to)];
    const along = end.clone().sub(start);
    return {
      middle: start.clone().add(end).multiplyScalar(0.5),
      turn: new Quaternion().setFromUnitVectors(UP, along.clone().normalize()),
      length: along.length(),
    };
  }, [from, to]);
  return (
    <mesh position={middle} quaternion={turn} {...(onClick ? { onClick } : {})}>
      <cylinderGeometry args={[radii[1], radii[0], length, 48, 1, open]} />
      {children}
    </mesh>
  );
}
