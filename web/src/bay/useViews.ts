import { useThree } from '@react-three/fiber';
import { useCallback, useEffect } from 'react';
import { Box3, type PerspectiveCamera, Sphere, Vector3 } from 'three';
import type { KeepOutWorkup, Workup } from '../api/generated/schema';

export const views = ['Top', 'Left', 'Front', 'Iso'] as const;
export type View = (typeof views)[number];

/** Where the eye stands, vehicle axes: x forward, y left, z up. */
const eyes: Record<View, [number, number, number]> = {
  Top: [0, -0.0001, 1],
  Left: [0, 1, 0.0001],
  Front: [1, 0, 0.0001],
  Iso: [0.62, -1, 0.72],
};

interface Controls {
  target: Vector3;
  update: () => void;
}

/** Everything worth seeing: the pipe and, round it, what stands in the bay. */
function extent(workup: Workup | undefined, keepOuts: KeepOutWorkup[], wide: boolean): Sphere {
  const box = new Box3();
  for (const end of workup?.ends ?? []) box.expandByPoint(new Vector3(...end.at.map((c) => c.mm)));
  for (const { vertex } of workup?.bends ?? []) box.expandByPoint(new Vector3(...vertex.map((c) => c.mm)));
  if (wide || box.isEmpty()) {
    for (const { shape } of keepOuts) {
      if (shape.shape === 'cylinder') box.expandByPoint(new Vector3(...shape.from));
      else if (shape.shape === 'box') box.expandByPoint(new Vector3(...shape.centre));
    }
  }
  if (box.isEmpty()) box.setFromCenterAndSize(new Vector3(), new Vector3(800, 800, 500));
  return box.getBoundingSphere(new Sphere());
}

/** Turns the camera to a standard view that shows the whole pipe, and again whenever `ask` changes. */
export function useView(view: View, ask: number, workup: Workup | undefined, keepOuts: KeepOutWorkup[]) {
  const camera = useThree((three) => three.camera) as PerspectiveCamera;
  const controls = useThree((three) => three.controls) as unknown as Controls | null;
  const invalidate = useThree((three) => three.invalidate);
  const ready = workup !== undefined || keepOuts.length > 0;

  const show = useCallback(() => {
    const sphere = extent(workup, keepOuts, false);
    const distance = (Math.max(sphere.radius, 150) * 1.22) / Math.sin((camera.fov * Math.PI) / 360);
    camera.position.copy(sphere.center).addScaledVector(new Vector3(...eyes[view]).normalize(), distance);
    camera.up.set(0, 0, 1);
    camera.near = distance / 50;
    camera.far = distance * 20;
    camera.updateProjectionMatrix();
    controls?.target.copy(sphere.center);
    controls?.update();
    invalidate();
  }, [view, workup, keepOuts, camera, controls, invalidate]);

  // biome-ignore lint/correctness/useExhaustiveDependencies: a changed pipe must not move the eye
  useEffect(() => {
    if (ready) show();
  }, [view, ask, controls, ready, workup?.run]);
}
