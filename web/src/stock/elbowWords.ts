import type { KitPie, StockElbow, Tube } from '../api/generated/schema';
import { figure, useBench } from '../kit/bench';
import { useMeasures } from '../measure/useMeasures';

/** Tells tubes apart as the shelf does: by material, outside and wall. */
export const tubeKey = (tube: Tube) => `${tube.material} ${tube.od} ${tube.wall}`;

/** What bought elbows are, in a few words each; lengths appear once the server has them in the bench's unit. */
export function useElbowWords(elbows: StockElbow[]) {
  const unit = useBench((bench) => bench.unit);
  const measure = useMeasures(elbows.flatMap(({ radius, legs }) => [radius, ...legs]));
  const shown = (mm: number) => {
    const known = measure(mm);
    return known ? figure(known, unit) : '';
  };
  return ({ angle, radius, legs }: StockElbow) =>
    `${angle}°, radius ${shown(radius)}, legs ${legs.map(shown).join(' / ')}`;
}

/** The same of bought pies. */
export function usePieWords(pies: KitPie[]) {
  const unit = useBench((bench) => bench.unit);
  const measure = useMeasures(pies.map(({ radius }) => radius));
  return ({ angle, radius }: KitPie) => {
    const known = measure(radius);
    return `${angle}°, for radius ${known ? figure(known, unit) : ''}`;
  };
}
