import { describe, expect, it } from 'vitest';
import type { BayWorkup, Taken } from '../api/generated/schema';
import {
  asFields,
  fieldOf,
  fromOptions,
  type ReadingKind,
  rimOf,
  taken,
  withFigure,
  withRim,
} from './readingKinds';

const kinds: [ReadingKind, string][] = [
  ['tape', 'datum 4'],
  ['up', 'zero'],
  ['forward', 'port 3 b'],
  ['left', 'datum 7'],
  ['heading', ''],
  ['pitch', ''],
  ['caliper', ''],
  ['girth', ''],
  ['bore', ''],
  ['angle', 'port 2 b'],
  ['tape', 'port 2 b far'],
  ['square', 'axis y'],
  ['same', 'port 12 a'],
  ['opposite', 'axis x'],
  ['mirror', 'port 1 a'],
];

describe('readings', () => {
  it('come out of their fields as they went in', () => {
    for (const [kind, from] of kinds) {
      const said = taken(kind, from, { spot: 'centre' }, 12.5);
      expect(asFields(said)).toEqual({ kind, from, to: { spot: 'centre' } });
    }
    const stick: Taken = taken('tape', 'datum 4', { spot: 'stick', mm: 300 }, 640);
    expect(asFields(stick).to).toEqual({ spot: 'stick', mm: 300 });
  });

  it('keep the wall of a bore and the point of a rim', () => {
    expect(taken('bore', '', { spot: 'centre' }, 57, 3.2)).toEqual({ by: 'bore', mm: 57, wall: 3.2 });
    expect(rimOf('port 2 b near')).toBe('near');
    expect(rimOf('port 2 b')).toBeUndefined();
    expect(withRim('port 2 b near', undefined)).toBe('port 2 b');
    expect(withRim('datum 4', 'far')).toBe('datum 4');
  });

  it('take another figure and keep the rest', () => {
    const tape = taken('tape', 'datum 4', { spot: 'centre' }, 640);
    expect(withFigure(tape, 512)).toEqual({ ...tape, mm: 512 });
    const held = taken('square', 'axis z', { spot: 'centre' }, 0);
    expect(withFigure(held, 3)).toEqual(held);
  });

  it('never start from the thing itself', () => {
    const bay = {
      datums: [
        { datum: 1, name: 'left bolt' },
        { datum: 2, name: 'right bolt' },
      ],
      ports: [],
    } as unknown as BayWorkup;
    expect(fromOptions('tape', bay, 'datum 1').map((option) => option.key)).toEqual(['datum 2', 'zero']);
    expect(fromOptions('pitch', bay, 'datum 1')).toEqual([]);
  });

  it('say which instrument can give them', () => {
    expect(fieldOf('up')).toBe('offset');
    expect(fieldOf('pitch')).toBe('pitch');
    expect(fieldOf('mirror')).toBeUndefined();
  });
});
