import { useThree } from '@react-three/fiber';
import { useCallback, useEffect, useRef, useState } from 'react';
import { Box3, OrthographicCamera, PerspectiveCamera, Sphere, Vector3 } from 'three';
import type { KeepOutWorkup, Workup } from '../api/generated/schema';

export const views = ['Top', 'Left', 'Front', 'Space'] as const;
export type View = (typeof views)[number];

/** Where the eye stands, vehicle axes: x forward, y left, z up. */
const eyes: Record<View, [number, number, number]> = {
  Top: [0, -0.0001, 1],
  Left: [0, 1, 0.0001],
  Front: [1, 0, 0.0001],
  Space: [0.62, -1, 0.72],
};

/** Whether a view is drawn without perspective, so that sizes compare. */
export const isFlat = (view: View) => view !== 'Space';

export interface Controls {
  target: Vector3;
  update: () => void;
}

/** Everything worth seeing: the pipe and, round it, what stands in the bay. */
function extent(workup: Workup | undefined, keepOuts: KeepOutWorkup[]): Sphere {
  const box = new Box3();
  for (const end of workup?.ends ?? []) box.expandByPoint(new Vector3(...end.at.map((c) => c.mm)));
  for (const { vertex } of workup?.bends ?? []) box.expandByPoint(new Vector3(...vertex.map((c) => c.mm)));
  if (box.isEmpty()) {
    for (const { shape } of keepOuts) {
      if (shape.shape === 'cylinder') box.expandByPoint(new Vector3(...shape.from));
      else if (shape.shape === 'box') box.expandByPoint(new Vector3(...shape.centre));
    }
  }
  if (box.isEmpty()) box.setFromCenterAndSize(new Vector3(), new Vector3(800, 800, 500));
  return box.getBoundingSphere(new Sphere());
}

/** Room left round what is shown, as a share. */
const ROOM = 1.22;
/** How far in front of and behind what is shown, mm, anything is drawn where there is no perspective. */
const DEEP = 6000;

/** Puts the eye so that a ball fills the picture, seen from a direction. */
export function lookAt(
  camera: PerspectiveCamera | OrthographicCamera,
  controls: Controls | null,
  { center, radius }: Sphere,
  from: Vector3,
  size: { width: number; height: number },
) {
  const out = from.clone().normalize();
  camera.up.set(0, 0, 1);
  if (camera instanceof PerspectiveCamera) {
    const distance = (radius * ROOM) / Math.sin((camera.fov * Math.PI) / 360);
    camera.position.copy(center).addScaledVector(out, distance);
    camera.near = Math.max(4, distance / 50);
    camera.far = distance + 2 * DEEP;
  } else {
    camera.position.copy(center).addScaledVector(out, DEEP);
    camera.near = 1;
    camera.far = 2 * DEEP;
    camera.zoom = Math.min(size.width, size.height) / (2 * radius * ROOM);
  }
  camera.lookAt(center);
  camera.updateProjectionMatrix();
  controls?.target.copy(center);
  controls?.update();
}

/** Turns the camera to a standard view that shows the whole pipe, and again whenever `ask` changes; tells how often. */
export function useView(
  view: View,
  ask: number,
  workup: Workup | undefined,
  keepOuts: KeepOutWorkup[],
): number {
  const [shown, setShown] = useState(0);
  const camera = useThree((three) => three.camera) as PerspectiveCamera | OrthographicCamera;
  const controls = useThree((three) => three.controls) as unknown as Controls | null;
  const invalidate = useThree((three) => three.invalidate);
  const size = useThree((three) => three.size);
  const ready = workup !== undefined || keepOuts.length > 0;
  const flat = camera instanceof OrthographicCamera;
  const latest = useRef({ workup, keepOuts, size });
  latest.current = { workup, keepOuts, size };

  const show = useCallback(() => {
    const now = latest.current;
    const { center, radius } = extent(now.workup, now.keepOuts);
    const ball = new Sphere(center, Math.max(radius, 150));
    lookAt(camera, controls, ball, new Vector3(...eyes[view]), now.size);
    invalidate();
  }, [view, camera, controls, invalidate]);

  // biome-ignore lint/correctness/useExhaustiveDependencies: a changed pipe must not move the eye
  useEffect(() => {
    if (!ready || flat !== isFlat(view)) return;
    show();
    setShown((times) => times + 1);
  }, [view, ask, controls, ready, flat, workup?.run]);
  return shown;
}
