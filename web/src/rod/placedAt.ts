import type { AlongAnchor, Workup } from '../api/generated/schema';

/** The place along the straights that is nearest to a station of the tube, from the nearer end of its straight. */
export function placedAt(workup: Workup, station: number): AlongAnchor {
  const off = (leg: number) => {
    const straight = workup.straights[leg];
    if (!straight) return Number.POSITIVE_INFINITY;
    return Math.max(straight.from.mm - station, station - straight.to.mm, 0);
  };
  const legs = workup.straights.map((_, leg) => leg);
  const leg = legs.reduce((best, one) => (off(one) < off(best) ? one : best), 0);
  const straight = workup.straights[leg];
  const id = straight?.straight ?? 0;
  const [start, end] = [straight?.from.mm ?? 0, straight?.to.mm ?? 0];
  const along = Math.min(Math.max(station, start), end);
  // To the half millimetre of a tape.
  const tape = (mm: number) => Math.max(0, Math.round(mm * 2) / 2);
  return along - start <= end - along
    ? { leg: id, from: 'start', mm: tape(along - start) }
    : { leg: id, from: 'end', mm: tape(end - along) };
}
