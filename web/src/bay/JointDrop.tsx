import { useThree } from '@react-three/fiber';
import { useEffect } from 'react';
import { Vector3 } from 'three';
import type { Workup } from '../api/generated/schema';
import { CARRIED, dropped, useAddAlong } from '../join/carried';
import type { Drawing } from '../kit/useDrawing';

/** How near to the pipe, in pixels, a joint or a support must be let go. */
const NEAR = 60;

/** Lets a kind of joint or support be dropped onto the pipe: it goes to the station that is nearest on the screen. */
export function JointDrop({ workup, drawing }: { workup: Workup; drawing: Drawing }) {
  const { gl, camera } = useThree();
  const add = useAddAlong(workup, drawing);
  useEffect(() => {
    const canvas = gl.domElement;
    const over = (event: DragEvent) => {
      if (event.dataTransfer?.types.includes(CARRIED)) event.preventDefault();
    };
    const drop = (event: DragEvent) => {
      const along = dropped(event);
      if (!along) return;
      event.preventDefault();
      const box = canvas.getBoundingClientRect();
      let best: { far: number; station: number } | undefined;
      for (const piece of workup.air?.trace ?? []) {
        const at = new Vector3(...piece.at).project(camera);
        const x = box.left + ((at.x + 1) / 2) * box.width;
        const y = box.top + ((1 - at.y) / 2) * box.height;
        const far = Math.hypot(x - event.clientX, y - event.clientY);
        if (!best || far < best.far) best = { far, station: (piece.from + piece.to) / 2 };
      }
      if (best && best.far < NEAR) void add(along, best.station);
    };
    canvas.addEventListener('dragover', over);
    canvas.addEventListener('drop', drop);
    return () => {
      canvas.removeEventListener('dragover', over);
      canvas.removeEventListener('drop', drop);
    };
  }, [gl, camera, workup, add]);
  return null;
}
