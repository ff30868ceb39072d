import { useLayoutEffect, useMemo, useRef } from 'react';
import { BufferGeometry, EdgesGeometry, type LineSegments, type Mesh, Vector3 } from 'three';

interface Props {
  color: string;
  opacity?: number;
}

/** Faces that meet at less than this, degrees, share no line. */
const SHARP = 20;
const noRay = () => null;

/** Scribed lines along the edges of the mesh it stands in: hair lines, since wide ones cost a software screen dear. */
export function Scribe({ color, opacity = 1 }: Props) {
  const lines = useRef<LineSegments>(null);
  const done = useRef<string>(undefined);
  useLayoutEffect(() => {
    const mesh = lines.current?.parent as Mesh | null | undefined;
    if (!lines.current || !mesh?.geometry || done.current === mesh.geometry.uuid) return;
    lines.current.geometry.dispose();
    lines.current.geometry = new EdgesGeometry(mesh.geometry, SHARP);
    done.current = mesh.geometry.uuid;
  });
  return (
    <lineSegments ref={lines} raycast={noRay}>
      <lineBasicMaterial color={color} transparent={opacity < 1} opacity={opacity} />
    </lineSegments>
  );
}

const ROUND = 48;

/** A scribed circle about the origin, square to `axis`. */
export function ScribedCircle({
  radius,
  axis,
  color,
  opacity = 1,
}: Props & { radius: number; axis: 'x' | 'y' | 'z' }) {
  const geometry = useMemo(() => {
    const points = Array.from({ length: ROUND + 1 }, (_, k) => {
      const [cos, sin] = [
        Math.cos((2 * Math.PI * k) / ROUND) * radius,
        Math.sin((2 * Math.PI * k) / ROUND) * radius,
      ];
      if (axis === 'x') return new Vector3(0, cos, sin);
      return axis === 'y' ? new Vector3(cos, 0, sin) : new Vector3(cos, sin, 0);
    });
    return new BufferGeometry().setFromPoints(points);
  }, [radius, axis]);
  return (
    <lineSegments geometry={useMemo(() => chained(geometry), [geometry])} raycast={noRay}>
      <lineBasicMaterial color={color} transparent={opacity < 1} opacity={opacity} />
    </lineSegments>
  );
}

/** A row of points as a row of segments. */
function chained(row: BufferGeometry): BufferGeometry {
  const count = row.getAttribute('position').count;
  const pairs = Array.from({ length: count - 1 }, (_, k) => [k, k + 1]).flat();
  return row.clone().setIndex(pairs);
}
