import type { ReactNode } from 'react';
import { useMemo } from 'react';
import { Matrix4, Quaternion, Vector3 } from 'three';
import type { BayWorkup } from '../api/generated/schema';
import { useBench } from '../kit/bench';

interface Props {
  bay: BayWorkup | undefined;
  /** Whether it is shown at rest. */
  still: boolean;
  children: ReactNode;
}

/** What rides on the engine, shown rolled on its mounts as far as the slider says. */
export function EngineSide({ bay, still, children }: Props) {
  const { roll, pose } = useBench();
  const mounts = bay?.mounts;
  const place = useMemo(() => {
    if (!mounts || still || (roll === 0 && !pose)) return new Matrix4();
    const [from, to] = [mounts.from, mounts.to].map((at) => new Vector3(...at.map((c) => c.mm)));
    if (!from || !to) return new Matrix4();
    const turn = new Quaternion().setFromAxisAngle(to.clone().sub(from).normalize(), (roll * Math.PI) / 180);
    const shift = from.clone().sub(from.clone().applyQuaternion(turn));
    if (pose) shift.add(new Vector3(...pose.shift));
    return new Matrix4().compose(shift, turn, new Vector3(1, 1, 1));
  }, [mounts, still, roll, pose]);
  return (
    <group matrix={place} matrixAutoUpdate={false}>
      {children}
    </group>
  );
}
