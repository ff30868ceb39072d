import type {
  BranchKind,
  Dash,
  Duty,
  EndForm,
  HoseBuild,
  InstallState,
  JointKind,
  KeepOutKind,
  KeepOutShape,
  Material,
  MountKind,
  Side,
  SupportKind,
} from '../api/generated/schema';

export const dutyNames: Record<Duty, string> = {
  charge_hot: 'Charge pipe, hot side',
  charge_cold: 'Charge pipe, cold side',
  intake: 'Intake tube',
  coolant: 'Coolant line',
  exhaust: 'Exhaust',
  oil: 'Oil line, engine or gearbox',
};

export const metalNames = {
  aluminium6061: 'Aluminium 6061',
  aluminium6063: 'Aluminium 6063',
  stainless304l: 'Stainless 304L',
  stainless316l: 'Stainless 316L',
  stainless321: 'Stainless 321',
  titanium_grade2: 'Titanium grade 2',
  mild_steel: 'Mild steel',
} as const satisfies Partial<Record<Material, string>>;

export const hoseNames = {
  silicone: 'Plain silicone',
  fluoro_silicone: 'Silicone, fluoro-lined',
  epdm: 'EPDM rubber',
  nitrile: 'Nitrile, braided',
  ptfe: 'PTFE, braided',
} as const satisfies Record<Exclude<Material, keyof typeof metalNames>, string>;

export const materialNames: Record<Material, string> = { ...metalNames, ...hoseNames };

export type HoseKind = 'tube' | HoseBuild['build'];

export const buildNames: Record<HoseKind, string> = {
  tube: 'Rigid tube',
  threaded: 'Hose with threaded ends',
  moulded: 'Hose of moulded pieces',
  corrugated: 'Corrugated hose',
};

const DASHES: readonly Dash[] = ['-3', '-4', '-6', '-8', '-10', '-12', '-16', '-20'];

export const dashes = DASHES.map((dash) => [dash, dash] as const);

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
  hump: 'Hump coupler',
  reducer: 'Reducer',
  elbow: 'Moulded elbow',
  sleeve: 'O-ring sleeve',
  rigid_clamp: 'Rigid O-ring clamp',
  v_band: 'V-band, metal',
  v_band_seal: 'V-band, soft seal',
  flange: 'Bolted flange',
  slip: 'Slip joint',
  bellows: 'Bellows',
  butt: 'Metal to metal',
  hose_end: 'The hose’s own end',
  open: 'Open end',
};

export const branchNames: Record<BranchKind, string> = {
  temperature_sensor: 'Temperature bung',
  pressure_sensor: 'Pressure bung',
  blow_off: 'Blow-off stub',
  recirculation: 'Recirculation stub',
  breather: 'Breather stub',
  bleed: 'Bleed',
  drain: 'Drain',
  filler: 'Filler neck',
};

export const supportNames: Record<SupportKind, string> = {
  clamps: 'Paired clamps',
  tab: 'Welded tab',
  grommet: 'Grommet',
  hanger: 'Rod hanger',
};

export const standingNames: Record<InstallState, string> = {
  in_place: 'In place',
  mock_up: 'Mock-up',
  on_order: 'On order',
  missing: 'Missing',
};

export const kindNames: Record<KeepOutKind, string> = {
  still_metal: 'Still metal',
  hose_or_wire: 'Hose or wire',
  bonnet: 'Bonnet',
  ground: 'Ground',
  belt_or_pulley: 'Belt or pulley',
  sweep: 'Steering or suspension',
  live_terminal: 'Live terminal',
  hot: 'Turbine or exhaust',
  shielded: 'Exhaust, shielded',
};

export const shapeNames: Record<KeepOutShape['shape'], string> = {
  box: 'Box',
  cylinder: 'Cylinder',
  sphere: 'Ball',
  line: 'Hose, cable or pipe',
  plane: 'Flat sheet',
  sheet: 'Outline',
  scan: 'Scan',
};

export const mountNames: Record<MountKind, string> = {
  soft: 'Soft',
  firm: 'Firm',
  solid: 'Solid',
};

/** A table of names as options of a drop-down. */
export function options<T extends string>(names: Record<T, string>): [T, string][] {
  return Object.entries(names) as [T, string][];
}
