import type { PartRef, Workup } from '../api/generated/schema';

/** The parts of a run in the order somebody walks it: A, straight, joints on it, bend, straight, ..., B. */
export function walkOrder({ run, straights, bends, joints }: Workup): PartRef[] {
  const parts: PartRef[] = [{ part: 'end', run, end: 'a' }];
  straights.forEach(({ straight }, index) => {
    parts.push({ part: 'straight', run, straight });
    for (const { joint } of joints.filter((one) => one.straight === straight)) {
      parts.push({ part: 'joint', run, joint });
    }
    const bend = bends[index];
    if (bend) parts.push({ part: 'bend', run, bend: bend.bend });
  });
  return [...parts, { part: 'end', run, end: 'b' }];
}
