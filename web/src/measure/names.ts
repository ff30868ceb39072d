import type { Duty, EndForm, JointKind, Material, Side } from '../api/generated/schema';

export const dutyNames: Record<Duty, string> = {
  charge_hot: 'Charge pipe, hot side',
  charge_cold: 'Charge pipe, cold side',
  intake: 'Intake tube',
  coolant: 'Coolant line',
  exhaust: 'Exhaust',
};

export const materialNames: Record<Material, string> = {
  aluminium6061: 'Aluminium 6061',
  aluminium6063: 'Aluminium 6063',
  stainless304l: 'Stainless 304L',
  stainless316l: 'Stainless 316L',
  stainless321: 'Stainless 321',
  titanium_grade2: 'Titanium grade 2',
  mild_steel: 'Mild steel',
};

export const formNames: Record<EndForm, string> = {
  plain: 'Plain',
  beaded: 'Beaded',
  barbed: 'Barbed',
  flanged: 'Flanged',
  threaded: 'Threaded',
};

export const sideNames: Record<Side, string> = { engine: 'Engine', body: 'Body' };

export const jointNames: Record<JointKind, string> = {
  coupler: 'Straight coupler',
  reducer: 'Reducer',
  butt: 'Metal to metal',
};

/** A table of names as options of a drop-down. */
export function options<T extends string>(names: Record<T, string>): [T, string][] {
  return Object.entries(names) as [T, string][];
}
