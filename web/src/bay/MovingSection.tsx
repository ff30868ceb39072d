import type { ReactNode } from 'react';
import { useMemo } from 'react';
import { Matrix4, Quaternion, Vector3 } from 'three';
import type { BayWorkup, SectionWorkup } from '../api/generated/schema';
import { useBench } from '../kit/bench';
import { EngineSide } from './EngineSide';

interface Props {
  bay: BayWorkup | undefined;
  section: SectionWorkup | undefined;
  index: number;
  children: ReactNode;
}

/** What goes with a rigid section of the pipe in hand, as the engine is shown rolled: with the engine, with the body, or
 * turned about an axis of its own between joints that give. */
export function MovingSection({ bay, section, index, children }: Props) {
  const { roll, pose } = useBench();
  const place = useMemo(() => {
    const posed = pose?.sections[index];
    if (posed) {
      const [x, y, z, at] = posed.map((axis) => new Vector3(...axis));
      if (x && y && z && at) return new Matrix4().makeBasis(x, y, z).setPosition(at);
    }
    const turns = section?.turns;
    if (!turns || roll === 0) return new Matrix4();
    const axis = new Vector3(...turns.axis);
    const pivot = new Vector3(...turns.pivot);
    const turn = new Quaternion().setFromAxisAngle(axis, (roll * turns.per_roll * Math.PI) / 180);
    const shift = pivot.clone().sub(pivot.clone().applyQuaternion(turn));
    return new Matrix4().compose(shift, turn, new Vector3(1, 1, 1));
  }, [section, index, roll, pose]);
  if (section?.rides === 'engine' && !pose?.sections[index]) {
    return (
      <EngineSide bay={bay} still={false}>
        {children}
      </EngineSide>
    );
  }
  return (
    <group matrix={place} matrixAutoUpdate={false}>
      {children}
    </group>
  );
}
