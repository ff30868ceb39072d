import { TransformControls } from '@react-three/drei';
import { useEffect, useRef, useState } from 'react';
import { Object3D } from 'three';
import type { Edit, EndWorkup } from '../api/generated/schema';
import type { Drawing } from '../kit/useDrawing';

interface Props {
  end: EndWorkup;
  run: number;
  drawing: Drawing;
}

/** Arrows along the vehicle's axes that drag a port. A move previews; letting go keeps. */
export function PortHandle({ end, run, drawing }: Props) {
  const [handle] = useState(() => new Object3D());
  const dragging = useRef(false);
  const last = useRef<Edit>(undefined);
  const [x, y, z] = end.at.map((coordinate) => coordinate.mm) as [number, number, number];

  useEffect(() => {
    if (!dragging.current) handle.position.set(x, y, z);
  }, [handle, x, y, z]);

  return (
    <>
      <primitive object={handle} />
      <TransformControls
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
          const [px, py, pz] = handle.position.toArray();
          last.current = { edit: 'move_port', run, end: end.end, at: [px, py, pz] };
          drawing.propose(last.current);
        }}
        onMouseUp={() => {
          dragging.current = false;
          if (last.current) void drawing.keep(last.current);
        }}
      />
    </>
  );
}
