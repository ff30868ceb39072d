import { BufferGeometry, Float32BufferAttribute, Vector3 } from 'three';
import type { Solid } from '../api/generated/schema';

/** Facets round the tube; enough that the outline reads as round at full screen height. */
const ROUND = 56;

type Triple = readonly [number, number, number];
const vector = (of: Triple) => new Vector3(...of);

/** Points of both sawn faces round the tube, each where a line along the tube meets the face's plane. */
export function faceRings(
  solid: Solid,
  radius: number,
): { from: Vector3[]; to: Vector3[]; normals: Vector3[] } {
  const [start, end] = [vector(solid.from), vector(solid.to)];
  const axis = end.clone().sub(start).normalize();
  const any = Math.abs(axis.z) < 0.9 ? new Vector3(0, 0, 1) : new Vector3(1, 0, 0);
  const across = any.clone().cross(axis).normalize();
  const up = axis.clone().cross(across);
  const meet = (at: Vector3, centre: Vector3, normal: Vector3) =>
    at.clone().addScaledVector(axis, centre.clone().sub(at).dot(normal) / axis.dot(normal));
  const rings = { from: [] as Vector3[], to: [] as Vector3[], normals: [] as Vector3[] };
  for (let step = 0; step <= ROUND; step += 1) {
    const turn = (step / ROUND) * 2 * Math.PI;
    const out = across.clone().multiplyScalar(Math.cos(turn)).addScaledVector(up, Math.sin(turn));
    rings.normals.push(out);
    rings.from.push(meet(start.clone().addScaledVector(out, radius), start, vector(solid.from_normal)));
    rings.to.push(meet(end.clone().addScaledVector(out, radius), end, vector(solid.to_normal)));
  }
  return rings;
}

/** The skin of one piece: its stretches between their planes, one after the other. */
export function pieceGeometry(solids: Solid[], radius: number): BufferGeometry {
  const positions: number[] = [];
  const facing: number[] = [];
  const index: number[] = [];
  for (const solid of solids) {
    const { from, to, normals } = faceRings(solid, radius);
    const first = positions.length / 3;
    for (let step = 0; step < from.length; step += 1) {
      const [p, q, n] = [from[step], to[step], normals[step]];
      if (!p || !q || !n) continue;
      positions.push(...p.toArray(), ...q.toArray());
      facing.push(...n.toArray(), ...n.toArray());
      if (step > 0) {
        const k = first + 2 * step;
        index.push(k - 2, k, k - 1, k - 1, k, k + 1);
      }
    }
  }
  const geometry = new BufferGeometry();
  geometry.setAttribute('position', new Float32BufferAttribute(positions, 3));
  geometry.setAttribute('normal', new Float32BufferAttribute(facing, 3));
  geometry.setIndex(index);
  return geometry;
}

/** The outline of its first face, as a closed line just proud of the skin. */
export function seamGeometry([first]: Solid[], radius: number): BufferGeometry {
  return new BufferGeometry().setFromPoints(first ? faceRings(first, radius + 0.3).from : []);
}
