import { Vector3 } from 'three';
import { describe, expect, it } from 'vitest';
import { faceRings, pieceGeometry } from './pieceGeometry';

const tilt = Math.tan(Math.PI / 8);
const mitred = {
  from: [0, 0, 0] as [number, number, number],
  from_normal: [1, 0, 0] as [number, number, number],
  to: [100, 0, 0] as [number, number, number],
  to_normal: [Math.cos(Math.PI / 8), Math.sin(Math.PI / 8), 0] as [number, number, number],
};

describe('a piece', () => {
  it('ends on its sawn planes and keeps its radius', () => {
    const { from, to } = faceRings(mitred, 30);
    for (const point of to) {
      expect(
        point
          .clone()
          .sub(new Vector3(...mitred.to))
          .dot(new Vector3(...mitred.to_normal)),
      ).toBeCloseTo(0, 9);
      expect(Math.hypot(point.y, point.z)).toBeCloseTo(30, 9);
    }
    expect(Math.max(...from.map((point) => Math.abs(point.x)))).toBeCloseTo(0, 9);
    // The throat of a 22.5 degree face is 30 tan(22.5) short of the centre line.
    expect(Math.min(...to.map((point) => point.x))).toBeCloseTo(100 - 30 * tilt, 1);
  });

  it('faces outwards', () => {
    const geometry = pieceGeometry([mitred, mitred], 30);
    const index = [...(geometry.getIndex()?.array ?? [])];
    const position = geometry.getAttribute('position');
    const corner = (k: number) => new Vector3().fromBufferAttribute(position, index[k] ?? 0);
    const normal = corner(1)
      .sub(corner(0))
      .cross(corner(2).sub(corner(0)));
    expect(normal.dot(new Vector3(0, corner(0).y, corner(0).z))).toBeGreaterThan(0);
  });
});
