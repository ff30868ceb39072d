import { TransformControls } from '@react-three/drei';
import { useCallback, useEffect, useRef, useState } from 'react';
import { Color, type Material, Object3D } from 'three';
import { token } from '../theme';

type Triple = [number, number, number];

interface Props {
  at: Triple;
  /** Planes that a drag snaps to: coordinates along x, y and z. */
  planes: readonly [readonly number[], readonly number[], readonly number[]];
  onMove: (at: Triple) => void;
  onDone: (at: Triple) => void;
}

/** A drag nearer than this to a datum's plane, mm, lands on it. */
const SNAP = 8;

/** Hues of the handle's arrows by the colours the control comes with: x, y, z, then its planes. */
const hues: Record<string, string> = {
  ff0000: token.tightOnDye,
  '00ff00': token.scribe,
  '0000ff': token.dyeLight,
  ffff00: token.straw,
  '00ffff': token.mouth,
  ff00ff: token.mouth,
};

/** The handle in the plate's own hues. */
function dyed(controls: Object3D | null) {
  controls?.traverse((part) => {
    const { material } = part as Object3D & { material?: Material & { color?: Color; tempColor?: Color } };
    const hue = material?.color && hues[material.color.getHexString()];
    if (!material?.color || !hue) return;
    material.color.set(hue);
    material.tempColor = new Color(hue);
  });
}

/** Arrows along the vehicle's axes that drag something. A move previews; letting go keeps. */
export function Handle({ at, planes, onMove, onDone }: Props) {
  const [handle] = useState(() => new Object3D());
  const dragging = useRef(false);
  const last = useRef<Triple>(undefined);
  const [x, y, z] = at;
  const dye = useCallback((controls: unknown) => dyed(controls as Object3D | null), []);

  useEffect(() => {
    if (!dragging.current) handle.position.set(x, y, z);
  }, [handle, x, y, z]);

  return (
    <>
      <primitive object={handle} />
      <TransformControls
        ref={dye}
        object={handle}
        mode='translate'
        size={0.75}
        translationSnap={1}
        onMouseDown={() => {
          dragging.current = true;
          last.current = undefined;
        }}
        onObjectChange={() => {
          if (!dragging.current) return;
          const now = handle.position.toArray();
          // Only what was moved snaps; the other axes stay where they are.
          last.current = now.map((value, axis) =>
            value === at[axis] ? value : nearest(value, planes[axis] ?? []),
          ) as Triple;
          onMove(last.current);
        }}
        onMouseUp={() => {
          dragging.current = false;
          if (last.current) onDone(last.current);
        }}
      />
    </>
  );
}

function nearest(value: number, planes: readonly number[]): number {
  const close = planes.filter((plane) => Math.abs(plane - value) <= SNAP);
  return close.sort((p, q) => Math.abs(p - value) - Math.abs(q - value))[0] ?? value;
}
