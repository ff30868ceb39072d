/** The longest part of a range that no hose covers; hoses are in order. */
export function longestFree(range: readonly [number, number], hoses: (readonly [number, number])[]) {
  const starts = [range[0], ...hoses.map(([, to]) => to)];
  const ends = [...hoses.map(([from]) => from), range[1]];
  const parts = starts.map((start, index) => [start, ends[index] ?? start] as const);
  return parts.reduce((best, part) => (part[1] - part[0] > best[1] - best[0] ? part : best));
}
