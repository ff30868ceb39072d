import type { MountPoint } from '../api/generated/schema';

type Way = MountPoint['out'];

const plain: [string, string][] = [
  ['[1,0,0]', 'forward'],
  ['[-1,0,0]', 'back'],
  ['[0,1,0]', 'left'],
  ['[0,-1,0]', 'right'],
  ['[0,0,1]', 'up'],
  ['[0,0,-1]', 'down'],
];

/** A direction as a choice names it. */
export const wayName = (way: Way) => JSON.stringify(way).replaceAll('-0', '0').replaceAll('.0', '');

/** The six plain directions, and what was said where that is none of them. */
export function ways(now: Way): [string, string][] {
  const name = wayName(now);
  return plain.some(([key]) => key === name) ? plain : [...plain, [name, 'as it was said']];
}
