import { Vector3 } from 'three';
import { describe, expect, it } from 'vitest';
import type { KeepOutWorkup } from '../api/generated/schema';
import { segmentsOf, swung } from './outline';

type Part = Pick<KeepOutWorkup, 'shape' | 'kind'>;

function points(pairs: number[]): Vector3[] {
  return Array.from({ length: pairs.length / 3 }, (_, k) => new Vector3().fromArray(pairs, 3 * k));
}

describe('what is scribed of a thing', () => {
  it('stands on the skin of a turned box', () => {
    const box: Part = {
      kind: 'still_metal',
      shape: { shape: 'box', centre: [10, 20, 30], size: [100, 60, 40], heading: 30, pitch: 20, roll: 10 },
    };
    const all = points(segmentsOf(box, true));
    expect(all).toHaveLength(24);
    const far = Math.hypot(50, 30, 20);
    for (const at of all) expect(at.distanceTo(new Vector3(10, 20, 30))).toBeCloseTo(far, 6);
  });

  it('is a rim, a hub and grooves for a pulley', () => {
    const shape = { shape: 'cylinder', from: [0, 0, 0], to: [30, 0, 0], diameter: 100 } as const;
    const plain = points(segmentsOf({ kind: 'still_metal', shape } as unknown as Part, true));
    const pulley = points(segmentsOf({ kind: 'belt_or_pulley', shape } as unknown as Part, true));
    for (const at of plain) expect(Math.hypot(at.y, at.z)).toBeCloseTo(50, 6);
    expect(pulley.length).toBeGreaterThan(2 * plain.length);
    expect(new Set(pulley.map((at) => Math.round(Math.hypot(at.y, at.z))))).toEqual(new Set([50, 41, 13]));
  });

  it('keeps the hatch of a sheet that turns inwards within its outline', () => {
    // An L: nothing may be hatched in the corner that is cut out.
    const corners = [
      [0, 0, 0],
      [200, 0, 0],
      [200, 80, 0],
      [80, 80, 0],
      [80, 200, 0],
      [0, 200, 0],
    ];
    const part = { kind: 'still_metal', shape: { shape: 'sheet', corners } } as unknown as Part;
    const [plain, hatched] = [segmentsOf(part, false), segmentsOf(part, true)];
    const lines = points(hatched.slice(plain.length));
    expect(lines.length).toBeGreaterThan(8);
    for (let k = 0; k < lines.length; k += 2) {
      const middle = lines[k]?.clone().lerp(lines[k + 1] ?? new Vector3(), 0.5);
      expect(middle && middle.x > 80.001 && middle.y > 80.001).toBe(false);
      expect(lines[k]?.z).toBeCloseTo(0, 9);
    }
  });

  it('turns about its hinge', () => {
    const hinge = { pivot: [0, 0, 0], axis: [0, 0, 1], from: 0, to: 90 } as never;
    const [x, y] = swung([100, 0, 0, 0, 0, 50], hinge, 90);
    expect([x, y].map((c) => Math.round(c ?? 0))).toEqual([0, 100]);
  });
});
