import { Quaternion, Vector3 } from 'three';
import type { KeepOutWorkup } from '../api/generated/schema';
import { hatch } from './hatch';
import { Pen } from './Pen';
import { boxPlace, directionOf, drumOf, planePlace } from './placing';

const RIGHT = Math.PI / 180;
/** Lines along a drum or a bar, so that its two rims read as one thing. */
const SIDES = 4;

/**
 * What is scribed of something in the way, as pairs of points, vehicle axes: its outline, and in detail also what shows its
 * kind. A scan has none: it is drawn as its own surface.
 */
export function segmentsOf(keepOut: Pick<KeepOutWorkup, 'shape' | 'kind'>, detailed: boolean): number[] {
  const pen = new Pen();
  outline(pen, keepOut);
  if (detailed) hatch(pen, keepOut);
  return pen.pairs;
}

function outline(pen: Pen, { shape, kind }: Pick<KeepOutWorkup, 'shape' | 'kind'>) {
  switch (shape.shape) {
    case 'box': {
      const place = boxPlace(shape);
      const at = (x: number, y: number, z: number) =>
        new Vector3((x * shape.size[0]) / 2, (y * shape.size[1]) / 2, (z * shape.size[2]) / 2).applyMatrix4(
          place,
        );
      for (const [p, q] of [
        [-1, -1],
        [-1, 1],
        [1, -1],
        [1, 1],
      ] as const) {
        pen.line(at(-1, p, q), at(1, p, q));
        pen.line(at(p, -1, q), at(p, 1, q));
        pen.line(at(p, q, -1), at(p, q, 1));
      }
      return;
    }
    case 'cylinder': {
      const { start, end, u, v } = drumOf(shape);
      const radius = shape.diameter / 2;
      pen.circle(start, u, v, radius);
      pen.circle(end, u, v, radius);
      pen.along(start, end, u, v, radius, SIDES);
      return;
    }
    case 'sphere': {
      const centre = new Vector3(...shape.centre);
      const axes = [new Vector3(1, 0, 0), new Vector3(0, 1, 0), new Vector3(0, 0, 1)] as const;
      // What sweeps is where something may be, not where it is: its lines are broken.
      const broken = kind === 'sweep';
      for (const [p, q] of [
        [0, 1],
        [1, 2],
        [2, 0],
      ] as const) {
        pen.circle(centre, axes[p], axes[q], shape.diameter / 2, broken);
      }
      return;
    }
    case 'line': {
      const points = shape.points.map((point) => new Vector3(...point));
      pen.path(points);
      if (shape.diameter < 14) return;
      for (let k = 1; k < shape.points.length; k += 1) {
        const [from, to] = [shape.points[k - 1], shape.points[k]];
        if (!from || !to) continue;
        const { start, end, u, v } = drumOf({ from, to });
        pen.along(start, end, u, v, shape.diameter / 2, SIDES);
        if (k === 1) pen.circle(start, u, v, shape.diameter / 2);
        pen.circle(end, u, v, shape.diameter / 2);
      }
      return;
    }
    case 'plane': {
      const place = planePlace(shape);
      const [x, y] = [shape.size[0] / 2, shape.size[1] / 2];
      const corners = [
        [-x, -y],
        [x, -y],
        [x, y],
        [-x, y],
      ].map(([p = 0, q = 0]) => new Vector3(p, q, 0).applyMatrix4(place));
      pen.path(corners, true);
      return;
    }
    case 'sheet':
      pen.path(
        shape.corners.map((corner) => new Vector3(...corner)),
        true,
      );
      return;
    case 'scan':
      return;
  }
}

/** Pairs of points turned about a hinge, right-handed, by degrees. */
export function swung(
  pairs: readonly number[],
  swing: NonNullable<KeepOutWorkup['swing']>,
  turn: number,
): number[] {
  const pivot = new Vector3(...(swing.pivot as [number, number, number]));
  const by = new Quaternion().setFromAxisAngle(directionOf(swing.axis), turn * RIGHT);
  const out: number[] = [];
  for (let k = 0; k < pairs.length; k += 3) {
    const at = new Vector3().fromArray(pairs as number[], k);
    out.push(...at.sub(pivot).applyQuaternion(by).add(pivot).toArray());
  }
  return out;
}
