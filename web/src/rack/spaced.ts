/** Those whose middles stand at least `apart` from each other; of two that are nearer, the one that turns further. */
export function spaced<T extends { middle: number; angle: number }>(all: readonly T[], apart: number): T[] {
  const kept: T[] = [];
  for (const one of [...all].sort((p, q) => q.angle - p.angle)) {
    if (kept.every((other) => Math.abs(other.middle - one.middle) >= apart)) kept.push(one);
  }
  return kept;
}
