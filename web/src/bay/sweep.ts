import { BufferGeometry, Float32BufferAttribute, Quaternion, Vector3 } from 'three';
import { across } from './placing';

type Triple = readonly [number, number, number];

/** The skin of a round bar of one radius along a row of points, its rings carried along without twist. */
export function sweep(line: readonly Triple[], radius: number, round: number): BufferGeometry {
  const points = line
    .map((at) => new Vector3(...at))
    .filter((at, index, all) => index === 0 || at.distanceTo(all[index - 1] as Vector3) > 1e-6);
  const geometry = new BufferGeometry();
  const [first, second] = points;
  if (!first || !second) return geometry;
  const [positions, normals, index]: [number[], number[], number[]] = [[], [], []];
  let way = second.clone().sub(first).normalize();
  let [u] = across(way);
  points.forEach((at, k) => {
    const before =
      k > 0
        ? at
            .clone()
            .sub(points[k - 1] as Vector3)
            .normalize()
        : way;
    const after = k + 1 < points.length ? (points[k + 1] as Vector3).clone().sub(at).normalize() : before;
    const here = before.clone().add(after).normalize();
    u = u.applyQuaternion(new Quaternion().setFromUnitVectors(way, here));
    way = here;
    const v = way.clone().cross(u);
    // On the plane half-way between two legs the ring is an ellipse.
    const stretch = 1 / Math.max(0.5, here.dot(after));
    const aside = after.clone().sub(before);
    const out = aside.lengthSq() > 1e-12 ? aside.normalize() : undefined;
    for (let step = 0; step < round; step += 1) {
      const turn = (2 * Math.PI * step) / round;
      const normal = u.clone().multiplyScalar(Math.cos(turn)).addScaledVector(v, Math.sin(turn));
      const offset = normal.clone().multiplyScalar(radius);
      if (out) offset.addScaledVector(out, offset.dot(out) * (stretch - 1));
      positions.push(at.x + offset.x, at.y + offset.y, at.z + offset.z);
      normals.push(normal.x, normal.y, normal.z);
      if (k === 0) continue;
      const [a, b] = [k * round + step, k * round + ((step + 1) % round)];
      index.push(a - round, b - round, a, a, b - round, b);
    }
  });
  geometry.setAttribute('position', new Float32BufferAttribute(positions, 3));
  geometry.setAttribute('normal', new Float32BufferAttribute(normals, 3));
  geometry.setIndex(index);
  return geometry;
}
