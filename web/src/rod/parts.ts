import type { Workup } from '../api/generated/schema';
import type { Selected } from '../kit/bench';

/** The parts of a run in the order somebody walks it: A, straight, joints on it, bend, straight, ..., B. */
export function walkOrder(workup: Workup): Selected[] {
  const parts: Selected[] = [{ part: 'end', end: 'a' }];
  workup.straights.forEach((_, straight) => {
    parts.push({ part: 'straight', straight });
    for (const { joint } of workup.joints.filter((one) => one.straight === straight)) {
      parts.push({ part: 'joint', joint });
    }
    if (straight < workup.bends.length) parts.push({ part: 'bend', bend: straight });
  });
  return [...parts, { part: 'end', end: 'b' }];
}
