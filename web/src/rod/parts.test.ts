import { describe, expect, it } from 'vitest';
import type { PartRef, Workup } from '../api/generated/schema';
import { walkOrder } from './parts';

/** As much of a workup as the walk looks at; bends are numbered 5, 6, ... and legs by the bend before them. */
function pipe(
  bends: number,
  joints: number[] = [],
  supports: number[] = [],
  branches: number[] = [],
): Workup {
  const ids = Array.from({ length: bends }, (_, index) => 5 + index);
  return {
    run: 4,
    straights: [0, ...ids].map((straight) => ({ straight })),
    bends: ids.map((bend) => ({ bend })),
    joints: joints.map((straight, joint) => ({ joint, straight, at: { mm: 100 * joint } })),
    supports: supports.map((straight, support) => ({ support, straight, at: { mm: 100 * support + 50 } })),
    branches: branches.map((straight, branch) => ({ branch, straight, at: { mm: 100 * branch + 75 } })),
  } as unknown as Workup;
}

/** A part said shortly: its letter and number. */
const said = (part: PartRef) => {
  switch (part.part) {
    case 'end':
      return part.end;
    case 'straight':
      return `s${part.straight}`;
    case 'bend':
      return `b${part.bend}`;
    case 'joint':
      return `j${part.joint}`;
    case 'support':
      return `h${part.support}`;
    case 'branch':
      return `l${part.branch}`;
    default:
      return part.part;
  }
};
const walk = (of: Workup) => walkOrder(of).map(said).join(' ');

describe('walking the rod', () => {
  it('goes from A to B, a bend after every straight but the last', () => {
    expect(walk(pipe(2))).toBe('a s0 b5 s5 b6 s6 b');
    expect(walkOrder(pipe(2)).every((part) => 'run' in part && part.run === 4)).toBe(true);
  });

  it('meets each joint after the straight it stands on', () => {
    expect(walk(pipe(1, [5, 0, 5]))).toBe('a s0 j1 b5 s5 j0 j2 b');
  });

  it('meets joints and supports of a straight in the order they stand in', () => {
    expect(walk(pipe(1, [0, 0], [5, 0]))).toBe('a s0 j0 j1 h1 b5 s5 h0 b');
  });

  it('meets what is let in where it stands among them', () => {
    expect(walk(pipe(1, [0, 0], [0], [0, 5]))).toBe('a s0 j0 h0 l0 j1 b5 s5 l1 b');
  });

  it('has both ends even where there is no pipe yet', () => {
    const none = {
      run: 4,
      straights: [],
      bends: [],
      joints: [],
      supports: [],
      branches: [],
    } as unknown as Workup;
    expect(walk(none)).toBe('a b');
  });
});
