import { expect, test } from 'vitest';
import { timeText } from './words';

test('a time is said in the unit it is counted in', () => {
  expect(timeText(0.4)).toBe('0 s');
  expect(timeText(119)).toBe('119 s');
  expect(timeText(120)).toBe('2 min');
  expect(timeText(3600)).toBe('60 min');
  expect(timeText(9000)).toBe('2.5 h');
});
