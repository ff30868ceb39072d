import { describe, expect, it } from 'vitest';
import { longestFree } from './longestFree';

describe('where a straight is written on', () => {
  it('is all of it where no hose is', () => {
    expect(longestFree([10, 90], [])).toEqual([10, 90]);
  });
  it('is the longest part beside the hoses', () => {
    expect(longestFree([0, 400], [[100, 180]])).toEqual([180, 400]);
    expect(
      longestFree(
        [0, 400],
        [
          [220, 300],
          [320, 390],
        ],
      ),
    ).toEqual([0, 220]);
  });
});
