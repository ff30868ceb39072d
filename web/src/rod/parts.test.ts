import { describe, expect, it } from 'vitest';
import type { Workup } from '../api/generated/schema';
import { walkOrder } from './parts';

/** As much of a workup as the walk looks at. */
function pipe(bends: number, joints: number[] = []): Workup {
  return {
    straights: Array.from({ length: bends + 1 }),
    bends: Array.from({ length: bends }),
    joints: joints.map((straight, joint) => ({ joint, straight })),
  } as unknown as Workup;
}

describe('walking the rod', () => {
  it('goes from A to B, a bend after every straight but the last', () => {
    expect(walkOrder(pipe(2))).toEqual([
      { part: 'end', end: 'a' },
      { part: 'straight', straight: 0 },
      { part: 'bend', bend: 0 },
      { part: 'straight', straight: 1 },
      { part: 'bend', bend: 1 },
      { part: 'straight', straight: 2 },
      { part: 'end', end: 'b' },
    ]);
  });

  it('meets each joint after the straight it stands on', () => {
    expect(walkOrder(pipe(1, [1, 0, 1]))).toEqual([
      { part: 'end', end: 'a' },
      { part: 'straight', straight: 0 },
      { part: 'joint', joint: 1 },
      { part: 'bend', bend: 0 },
      { part: 'straight', straight: 1 },
      { part: 'joint', joint: 0 },
      { part: 'joint', joint: 2 },
      { part: 'end', end: 'b' },
    ]);
  });

  it('has both ends even where there is no pipe yet', () => {
    const none = { straights: [], bends: [], joints: [] } as unknown as Workup;
    expect(walkOrder(none)).toEqual([
      { part: 'end', end: 'a' },
      { part: 'end', end: 'b' },
    ]);
  });
});
