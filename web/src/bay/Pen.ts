import { Vector3 } from 'three';

/** Pieces of a whole circle. */
const ROUND = 40;

/** Collects scribed lines as pairs of points. */
export class Pen {
  readonly pairs: number[] = [];

  line(from: Vector3, to: Vector3) {
    this.pairs.push(from.x, from.y, from.z, to.x, to.y, to.z);
  }

  path(points: readonly Vector3[], closed = false) {
    points.forEach((point, index) => {
      const next = points[index + 1] ?? (closed ? points[0] : undefined);
      if (next) this.line(point, next);
    });
  }

  /** A circle about `centre` in the plane of two unit vectors that are square to each other. */
  circle(centre: Vector3, u: Vector3, v: Vector3, radius: number, broken = false) {
    const at = (k: number) => rim(centre, u, v, radius, (2 * Math.PI * k) / ROUND);
    for (let k = 0; k < ROUND; k += broken ? 2 : 1) this.line(at(k), at(k + 1));
  }

  /** Lines along a round bar, evenly round it. */
  along(start: Vector3, end: Vector3, u: Vector3, v: Vector3, radius: number, count: number) {
    for (let k = 0; k < count; k += 1) {
      const angle = (2 * Math.PI * (k + 0.5)) / count;
      this.line(rim(start, u, v, radius, angle), rim(end, u, v, radius, angle));
    }
  }

  /** Strokes outwards from a circle. */
  rays(centre: Vector3, u: Vector3, v: Vector3, radius: number, long: number, count: number) {
    for (let k = 0; k < count; k += 1) {
      const angle = (2 * Math.PI * k) / count;
      this.line(rim(centre, u, v, radius, angle), rim(centre, u, v, radius + long, angle));
    }
  }
}

function rim(centre: Vector3, u: Vector3, v: Vector3, radius: number, angle: number): Vector3 {
  return new Vector3()
    .copy(centre)
    .addScaledVector(u, Math.cos(angle) * radius)
    .addScaledVector(v, Math.sin(angle) * radius);
}
