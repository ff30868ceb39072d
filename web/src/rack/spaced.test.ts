import { describe, expect, it } from 'vitest';
import { spaced } from './spaced';

describe('figures over a stick', () => {
  it('keep apart, and the sharper bend keeps its own', () => {
    const all = [
      { middle: 0, angle: 10 },
      { middle: 20, angle: 45 },
      { middle: 70, angle: 5 },
      { middle: 95, angle: 5 },
    ];
    const kept = spaced(all, 30);
    expect(kept.map(({ middle }) => middle).sort((p, q) => p - q)).toEqual([20, 70]);
  });

  it('are all there where there is room', () => {
    const all = [0, 40, 80].map((middle) => ({ middle, angle: middle }));
    expect(spaced(all, 30)).toHaveLength(3);
  });
});
