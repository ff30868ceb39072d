import { Matrix4, Quaternion, Vector3 } from 'three';
import type { KeepOutWorkup } from '../api/generated/schema';

type Triple = [number, number, number];
type Shape = KeepOutWorkup['shape'];

const UP = new Vector3(0, 0, 1);
const RIGHT = Math.PI / 180;
/** A direction as the server writes it: its components. */
export function directionOf(said: unknown): Vector3 {
  return Array.isArray(said) ? new Vector3(...(said as [number, number, number])).normalize() : UP.clone();
}

/** From a box's own axes, its middle at zero, to the vehicle's. */
export function boxPlace(shape: Extract<Shape, { shape: 'box' }>): Matrix4 {
  const { heading, pitch = 0, roll = 0, centre } = shape;
  return new Matrix4()
    .makeRotationZ(heading * RIGHT)
    .multiply(new Matrix4().makeRotationY(-(pitch ?? 0) * RIGHT))
    .multiply(new Matrix4().makeRotationX((roll ?? 0) * RIGHT))
    .setPosition(new Vector3(...centre));
}

/** From a flat sheet's own axes, its middle at zero and facing z, to the vehicle's. */
export function planePlace(shape: Extract<Shape, { shape: 'plane' }>): Matrix4 {
  const turn = new Quaternion().setFromUnitVectors(UP, directionOf(shape.normal));
  return new Matrix4().makeRotationFromQuaternion(turn).setPosition(new Vector3(...shape.centre));
}

/** Two directions square to an axis and to each other. */
export function across(axis: Vector3): [Vector3, Vector3] {
  const any = Math.abs(axis.z) < 0.9 ? UP : new Vector3(1, 0, 0);
  const u = any.clone().cross(axis).normalize();
  return [u, axis.clone().cross(u)];
}

/** The middle of a drum's two faces, its axis, and two directions across it. */
export function drumOf({ from, to }: { from: [number, number, number]; to: [number, number, number] }) {
  const [start, end] = [new Vector3(...from), new Vector3(...to)];
  const axis = end.clone().sub(start).normalize();
  const [u, v] = across(axis);
  return { start, end, axis, u, v };
}

/** Square to a flat outline; Newell's normal holds for outlines that turn inwards too. */
export function normalOf(points: readonly Vector3[]): Vector3 {
  const origin = points[0] ?? new Vector3();
  const sum = points.reduce((total, point, index) => {
    const next = points[(index + 1) % points.length] ?? origin;
    return total.add(point.clone().sub(origin).cross(next.clone().sub(origin)));
  }, new Vector3());
  return sum.normalize();
}

/** Where a keep-out's name stands. */
export function middleOf({ shape, at, scan }: KeepOutWorkup): Triple {
  const along = shape.shape === 'line' ? shape.points : shape.shape === 'sheet' ? shape.corners : undefined;
  if (along) {
    const sum = along.reduce((total, point) => total.add(new Vector3(...point)), new Vector3());
    return sum.divideScalar(along.length).toArray();
  }
  if (shape.shape === 'cylinder') {
    const { start, end } = drumOf(shape);
    return start.lerp(end, 0.5).toArray();
  }
  if (shape.shape === 'scan') {
    const first = shape.matched?.[0];
    return first?.to.is === 'point' ? first.to.at : (scan?.frame[3] ?? [0, 0, 0]);
  }
  return at.map((c) => c.mm) as Triple;
}
