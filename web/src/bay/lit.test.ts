import { describe, expect, it } from 'vitest';
import type { ClearanceThing, Workup } from '../api/generated/schema';
import { litThings } from './lit';

const thing = (keep_out: number, gap: number, state: ClearanceThing['state'], roll = 0) =>
  ({
    thing: { is: 'keep_out', keep_out },
    gap: { mm: gap },
    limit: { mm: 20 },
    state,
    roll,
  }) as ClearanceThing;

const workup = (things: ClearanceThing[]) => ({ air: { things }, findings: [] }) as unknown as Workup;

const nothing = { part: 'nothing' } as const;

describe('what matters in the bay', () => {
  it('is all that is too near, and of the rest the nearest, about five', () => {
    const all = [
      thing(1, -2, 'fouls'),
      thing(2, 15, 'tight'),
      ...[30, 31, 32, 33, 34].map((gap, index) => thing(3 + index, gap, 'clear')),
    ];
    const { keepOuts } = litThings(workup(all), nothing, undefined, 0);
    expect([...keepOuts.keys()]).toEqual([1, 2, 3, 4, 5]);
    expect(keepOuts.get(1)?.look).toBe('fouls');
    expect(keepOuts.get(3)?.look).toBe('near');
  });

  it('never leaves out something too near, however many there are', () => {
    const all = Array.from({ length: 9 }, (_, k) => thing(k, -k, 'fouls'));
    expect(litThings(workup(all), nothing, undefined, 0).keepOuts.size).toBe(9);
  });

  it('follows the engine: what is worst at a roll lights up near it', () => {
    const all = [thing(1, -2, 'fouls', 4), thing(2, 15, 'tight', -4), thing(3, 10, 'tight', 0)];
    const looks = (roll: number) =>
      [...litThings(workup(all), nothing, undefined, roll).keepOuts.values()].map(({ look }) => look).join();
    expect(looks(4)).toBe('fouls,tight,near');
    expect(looks(-4)).toBe('near,tight,tight');
    expect(looks(1)).toBe('near,tight,near');
  });
});
