import { describe, expect, it } from 'vitest';
import type { CardWorkup, Done } from '../api/generated/schema';
import type { Waiting } from './deedQueue';
import { isDone, nextOpen } from './standing';

const piece = { kind: 'pie', bend: 3, pie: 1 } as const;
const cut = (longest: number): Done => ({
  deed: 'cut',
  run: 1,
  piece,
  as_cut: { name: 'H3', size: { centre: 20, longest, saws: [4, 4] } },
});
const card = {
  key: 'cut',
  done: false,
  does: cut(22),
  undoes: { deed: 'not_cut', run: 1, piece },
  piece: { piece, as_cut: { name: 'H3', size: { centre: 20, longest: 22, saws: [4, 4] } } },
} as unknown as CardWorkup;
const wait = (...all: Done[]): Waiting[] =>
  all.map((done, at) => ({ job: 7, deed: { id: `deed-000${at}`, by: 'me', done } }));

describe('a card', () => {
  it('is done as soon as that is noted, and not after all when it is taken back', () => {
    expect(isDone(card, [], 7)).toBe(false);
    expect(isDone(card, wait(cut(22)), 7)).toBe(true);
    expect(isDone(card, wait(cut(22), { deed: 'not_cut', run: 1, piece }), 7)).toBe(false);
    expect(isDone(card, wait(cut(23.5)), 7)).toBe(true);
    expect(isDone(card, wait(cut(22), { deed: 'spoilt', run: 1, piece }), 7)).toBe(false);
  });
  it('minds neither another job, another run nor another piece', () => {
    expect(isDone(card, wait(cut(22)), 8)).toBe(false);
    expect(isDone(card, wait({ ...cut(22), run: 2 } as Done), 7)).toBe(false);
    const other = { ...cut(22), piece: { kind: 'pie', bend: 3, pie: 2 } } as Done;
    expect(isDone(card, wait(other), 7)).toBe(false);
  });
});

describe('the next card', () => {
  it('is the next that is open, round to the first, or stays', () => {
    expect(nextOpen([true, false, true, false], 2)).toBe(3);
    expect(nextOpen([true, false, true, true], 2)).toBe(1);
    expect(nextOpen([true, true], 1)).toBe(1);
    expect(nextOpen([], 0)).toBe(0);
  });
});
