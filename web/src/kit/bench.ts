import { create } from 'zustand';
import type { DualUnitText, Finding, Measure, PartRef, Thing, Triple } from '../api/generated/schema';

export type Unit = 'mm' | 'in';

/** What is selected: a part of the job, or nothing. */
export type Selected = PartRef | { part: 'nothing' };

/** Whether no part of a pipe in particular is selected. */
export const isWhole = (selected: Selected) => selected.part === 'nothing' || selected.part === 'run';

/** The parts of the Measure step, in the order the work goes. */
export const stages = ['datums', 'boxes', 'ports', 'way', 'moves'] as const;
export type Stage = (typeof stages)[number];

/** The parts of the Route step. */
export const routeStages = ['shape', 'ways', 'beside', 'flow'] as const;
export type RouteStage = (typeof routeStages)[number];

/** A point picked on a scan, in the file's own axes and unit, and where that is in the bay now. */
export interface Pick {
  keepOut: number;
  scan: [number, number, number];
  at: [number, number, number];
}

/** What the bay shows. */
export const layerNames = ['engine', 'body', 'others', 'names'] as const;
export type Layer = (typeof layerNames)[number];

/** What the bay is turned and neared to, so that it is seen free. */
export interface Sight {
  part: PartRef;
  against: Thing | undefined;
}

/** The engine and the sections of a pipe where a joint takes most. */
export interface Pose {
  /** The engine's roll in degrees, and its shift in mm. */
  roll: number;
  shift: Triple;
  /** The vehicle's axes and zero as each section has moved. */
  sections: Triple[][];
  /** The joint whose worst it is. */
  of: string;
}

/** The most things that the distance tool holds. */
const TWO = 2;

interface Bench {
  unit: Unit;
  selected: Selected;
  sight: Sight | undefined;
  layers: Record<Layer, boolean>;
  /** Whether the engine is rolled to and fro. */
  playing: boolean;
  /** The things whose distance is asked for; nothing where it is not. */
  between: PartRef[] | undefined;
  stage: Stage;
  routeStage: RouteStage;
  /** Which of the kept ways are drawn beside the one taken, at most three. */
  beside: number[];
  /** How far the engine is shown rolled, in degrees. */
  roll: number;
  /** The worst pose of a joint, where one is shown. */
  pose: Pose | undefined;
  /** The scan that waits for a point to be picked on it. */
  picking: number | undefined;
  picked: Pick | undefined;
  setUnit: (unit: Unit) => void;
  select: (selected: Selected) => void;
  /** Selects what a finding is about and turns the bay to it. */
  show: (finding: Finding) => void;
  toggleLayer: (layer: Layer) => void;
  setPlaying: (playing: boolean) => void;
  /** Begins or ends asking for a distance. */
  setBetween: (between: PartRef[] | undefined) => void;
  /** What was pressed in the bay: selected, or the next of two things whose distance is asked for. */
  press: (part: PartRef) => void;
  /** Selects what an edit made, if it made anything. */
  selectMade: (made: PartRef[]) => void;
  setStage: (stage: Stage) => void;
  setRouteStage: (stage: RouteStage) => void;
  showBeside: (kept: number, on: boolean) => void;
  setRoll: (roll: number) => void;
  setPose: (pose: Pose | undefined) => void;
  pickOn: (keepOut: number | undefined) => void;
  pick: (picked: Pick | undefined) => void;
}

const stored = () => (localStorage.getItem('unit') === 'in' ? 'in' : 'mm');

/** What belongs to the person at the screen and not to the job. */
export const useBench = create<Bench>((set) => ({
  unit: stored(),
  selected: { part: 'nothing' },
  sight: undefined,
  layers: { engine: true, body: true, others: true, names: true },
  playing: false,
  between: undefined,
  stage: 'ports',
  routeStage: 'shape',
  beside: [],
  roll: 0,
  pose: undefined,
  picking: undefined,
  picked: undefined,
  setUnit: (unit) => {
    localStorage.setItem('unit', unit);
    set({ unit });
  },
  select: (selected) => set({ selected, sight: undefined, picking: undefined }),
  show: ({ part, against }) =>
    set({ selected: part, sight: { part, against: against ?? undefined }, picking: undefined }),
  toggleLayer: (layer) => set(({ layers }) => ({ layers: { ...layers, [layer]: !layers[layer] } })),
  setPlaying: (playing) => set({ playing, roll: 0, pose: undefined }),
  setBetween: (between) => set({ between }),
  press: (part) =>
    set(({ between }) => {
      if (!between) return { selected: part, sight: undefined, picking: undefined };
      return { between: between.length >= TWO ? [part] : [...between, part] };
    }),
  selectMade: ([made]) => made && set({ selected: made, sight: undefined, picking: undefined }),
  setStage: (stage) => set({ stage }),
  setRouteStage: (routeStage) => set({ routeStage }),
  showBeside: (kept, on) =>
    set(({ beside }) => {
      const others = beside.filter((one) => one !== kept);
      return { beside: on ? [...others, kept].slice(-3) : others };
    }),
  setRoll: (roll) => set({ roll, pose: undefined }),
  setPose: (pose) => set({ pose, roll: pose?.roll ?? 0, playing: false }),
  pickOn: (picking) => set({ picking }),
  pick: (picked) => set({ picked, picking: undefined }),
}));

/** Whether two values are one, however their fields are ordered. */
export function same(one: unknown, other: unknown): boolean {
  const sorted = (_: string, value: unknown) =>
    value !== null && typeof value === 'object' ? Object.fromEntries(Object.entries(value).sort()) : value;
  return JSON.stringify(one, sorted) === JSON.stringify(other, sorted);
}

/** Whether two parts are one. */
export const samePart = (one: Selected, other: Selected) => same(one, other);

/** A length as the chosen unit shows it. */
export function figure(measure: Measure, unit: Unit): string {
  return unit === 'mm' ? measure.mm_text : measure.inch_text;
}

/** A length with its unit; in inches with the nearest thirty-second. */
export function length(measure: Measure, unit: Unit): string {
  return unit === 'mm' ? `${measure.mm_text} mm` : `${measure.fraction} in (${measure.inch_text})`;
}

export function sentence(words: DualUnitText, unit: Unit): string {
  return unit === 'mm' ? words.mm : words.inch;
}

export function degrees(angle: number, digits = 1): string {
  const text = angle.toFixed(digits);
  return `${Number(text) === 0 ? (0).toFixed(digits) : text}°`;
}
