import { describe, expect, it } from 'vitest';
import type { Workup } from '../api/generated/schema';
import { placedAt } from './placedAt';

const measure = (mm: number) => ({ mm });
/** As bends are numbered: in no order. */
const legs = [0, 7, 3];
const straights = [
  [0, 100],
  [180, 300],
  [380, 420],
].map(([from, to], leg) => ({ straight: legs[leg], from: measure(from ?? 0), to: measure(to ?? 0) }));
const workup = { straights } as unknown as Workup;

describe('a joint dropped on the rod', () => {
  it('is held from the nearer end of its straight, to the half millimetre', () => {
    expect(placedAt(workup, 20.3)).toEqual({ leg: 0, from: 'start', mm: 20.5 });
    expect(placedAt(workup, 80)).toEqual({ leg: 0, from: 'end', mm: 20 });
    expect(placedAt(workup, 250.1)).toEqual({ leg: 7, from: 'end', mm: 50 });
  });

  it('goes to the nearest straight where a bend is', () => {
    expect(placedAt(workup, 130)).toEqual({ leg: 0, from: 'end', mm: 0 });
    expect(placedAt(workup, 170)).toEqual({ leg: 7, from: 'start', mm: 0 });
  });

  it('stays on the pipe', () => {
    expect(placedAt(workup, -50)).toEqual({ leg: 0, from: 'start', mm: 0 });
    expect(placedAt(workup, 900)).toEqual({ leg: 3, from: 'end', mm: 0 });
  });
});
