import { Vector3 } from 'three';
import { describe, expect, it } from 'vitest';
import { sweep } from './sweep';

describe('a swept skin', () => {
  it('keeps its radius from every leg, round a corner too, and faces outwards', () => {
    const line = [
      [0, 0, 0],
      [100, 0, 0],
      [100 + 70.7, 70.7, 0],
      [100 + 70.7, 70.7, 90],
    ] as [number, number, number][];
    const geometry = sweep(line, 20, 24);
    const position = geometry.getAttribute('position');
    const legs = line.slice(1).map((to, k) => [new Vector3(...(line[k] ?? to)), new Vector3(...to)] as const);
    for (let k = 0; k < position.count; k += 1) {
      const at = new Vector3().fromBufferAttribute(position, k);
      const off = legs.map(([from, to]) => {
        const along = to.clone().sub(from).normalize();
        const way = at.clone().sub(from);
        return way.addScaledVector(along, -way.dot(along)).length();
      });
      const leg = Math.min(Math.floor(k / 24), legs.length - 1);
      expect(off[leg]).toBeCloseTo(20, 4);
    }
    const index = [...(geometry.getIndex()?.array ?? [])];
    const corner = (k: number) => new Vector3().fromBufferAttribute(position, index[k] ?? 0);
    const facing = corner(1)
      .sub(corner(0))
      .cross(corner(2).sub(corner(0)));
    const out = new Vector3().fromBufferAttribute(geometry.getAttribute('normal'), index[0] ?? 0);
    expect(facing.dot(out)).toBeGreaterThan(0);
  });

  it('is nothing along a point', () => {
    expect(sweep([[1, 2, 3]], 5, 8).getAttribute('position')).toBeUndefined();
  });
});
