import type { PartRef, Workup } from '../api/generated/schema';

/** The parts of a run in the order somebody walks it: A, straight, joints, supports and branches on it, bend, straight, ..., B. */
export function walkOrder({ run, straights, bends, joints, supports, branches }: Workup): PartRef[] {
  const parts: PartRef[] = [{ part: 'end', run, end: 'a' }];
  straights.forEach(({ straight }, index) => {
    parts.push({ part: 'straight', run, straight });
    const along = [
      ...joints.map(({ joint, straight: on, at }) => ({
        on,
        at,
        part: { part: 'joint', run, joint } as const,
      })),
      ...supports.map(({ support, straight: on, at }) => ({
        on,
        at,
        part: { part: 'support', run, support } as const,
      })),
      ...branches.map(({ branch, straight: on, at }) => ({
        on,
        at,
        part: { part: 'branch', run, branch } as const,
      })),
    ];
    const here = along.filter((one) => one.on === straight).sort((one, other) => one.at.mm - other.at.mm);
    parts.push(...here.map((one) => one.part));
    const bend = bends[index];
    if (bend) parts.push({ part: 'bend', run, bend: bend.bend });
  });
  return [...parts, { part: 'end', run, end: 'b' }];
}
