import type { Workup } from '../api/generated/schema';
import type { Unit } from '../kit/bench';

/** Where stations of the tube stand on the screen. */
export interface RodScale {
  /** Pixels per millimetre. */
  perMm: number;
  x: (station: number) => number;
}

/** Fits the tube and the hoses that reach past its ends between `left` and `right`. */
export function rodScale(workup: Workup, left: number, right: number): RodScale {
  const [a, b] = workup.ends;
  const length = workup.totals?.end_to_end.mm ?? 1;
  const before = a.gap.mm + a.port_seat.mm;
  const after = b.gap.mm + b.port_seat.mm;
  const perMm = (right - left) / (before + length + after);
  return { perMm, x: (station) => left + (before + station) * perMm };
}

const MM_STEPS = [1, 2, 5, 10, 20, 50, 100, 200, 500, 1000];
const INCH_STEPS = [1 / 16, 1 / 8, 1 / 4, 1 / 2, 1, 2, 4, 6, 12, 24];
const MM_PER_INCH = 25.4;

/** Stations of the ruler's numbered marks, no two nearer than `apart` pixels, labelled in the unit. */
export function rulerMarks(length: number, perMm: number, unit: Unit, apart: number) {
  const inMm = unit === 'mm' ? 1 : MM_PER_INCH;
  const steps = unit === 'mm' ? MM_STEPS : INCH_STEPS;
  const step = steps.find((candidate) => candidate * inMm * perMm >= apart) ?? steps.at(-1) ?? 1;
  const count = Math.floor(length / (step * inMm) + 1e-9);
  return Array.from({ length: count + 1 }, (_, index) => ({
    station: index * step * inMm,
    label: String(index * step),
  }));
}
