import type { Inside, Process, WeldOutcome } from '../api/generated/schema';

export const processNames: Record<Process, string> = {
  tig: 'TIG with filler',
  tig_fused: 'TIG without filler',
  mig: 'MIG',
};

export const insideNames: Record<Inside, string> = { purge: 'argon inside', flux: 'paste flux inside' };

export const outcomeNames: Record<WeldOutcome, string> = {
  good: 'Good: through, bright, bent without a crack',
  cold: 'Cold: not through',
  hot: 'Hot: sagged or burnt through',
  dirty: 'Dirty: grey, air came to it',
  cracked: 'Cracked as it was bent',
};

/** A time as it is said at the bench: seconds below two minutes, minutes below two hours. */
export function timeText(seconds: number): string {
  if (seconds < 120) return `${Math.round(seconds)} s`;
  if (seconds < 7200) return `${Math.round(seconds / 60)} min`;
  return `${(seconds / 3600).toFixed(1)} h`;
}
