import { create } from 'zustand';
import type { Measure, Place, Words } from '../api/generated/schema';

export type Unit = 'mm' | 'in';

/** What is selected: a part of the pipe, or one sawn piece. */
export type Selected = Place | { part: 'piece'; piece: number };

interface Bench {
  unit: Unit;
  selected: Selected;
  setUnit: (unit: Unit) => void;
  select: (selected: Selected) => void;
}

const stored = () => (localStorage.getItem('unit') === 'in' ? 'in' : 'mm');

/** What belongs to the person at the screen and not to the job. */
export const useBench = create<Bench>((set) => ({
  unit: stored(),
  selected: { part: 'run' },
  setUnit: (unit) => {
    localStorage.setItem('unit', unit);
    set({ unit });
  },
  select: (selected) => set({ selected }),
}));

export function samePart(one: Selected, other: Selected): boolean {
  return JSON.stringify(one) === JSON.stringify(other);
}

/** A length as the chosen unit shows it. */
export function figure(measure: Measure, unit: Unit): string {
  return unit === 'mm' ? measure.mm_text : measure.inch_text;
}

/** A length with its unit; in inches with the nearest sixteenth. */
export function length(measure: Measure, unit: Unit): string {
  return unit === 'mm' ? `${measure.mm_text} mm` : `${measure.sixteenths} in (${measure.inch_text})`;
}

export function sentence(words: Words, unit: Unit): string {
  return unit === 'mm' ? words.mm : words.inch;
}

export function degrees(angle: number, digits = 1): string {
  const text = angle.toFixed(digits);
  return `${Number(text) === 0 ? (0).toFixed(digits) : text}°`;
}
