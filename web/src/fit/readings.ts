import type { Field, FitReading, FitWorkup, Workup } from '../api/generated/schema';
import { same } from '../kit/bench';

type Kind = FitReading['reads'];
type Options = readonly (readonly [string, string])[];

/** What is measured finer, as it is chosen. */
export const kinds: readonly (readonly [Kind, string])[] = [
  ['mouth_gap', 'Gap at B'],
  ['mouth_step', 'Step at B'],
  ['angle', 'Angle of a bend'],
  ['length', 'Length of a piece'],
  ['lines', 'Lines at a seam'],
  ['seam_gap', 'Gap at a seam'],
  ['end_to_end', 'Straight across'],
  ['two_ways', 'Round or not'],
  ['touches', 'It touches'],
];

/** Clocks round a mouth, seen from A. */
export const clocks: Options = [
  ['0', 'at the top'],
  ['90', 'at the right'],
  ['180', 'underneath'],
  ['270', 'at the left'],
];

/** The field of an instrument that gives a reading's figure. */
export const fieldOf: Partial<Record<Kind, Field>> = {
  mouth_gap: 'gap',
  seam_gap: 'gap',
  mouth_step: 'step',
  length: 'tape',
  end_to_end: 'tape',
};

/** Where a reading is taken, as it is chosen. */
export interface Place {
  clock: string;
  to: string;
  at: string;
}

const seams = (fit: FitWorkup) => fit.pieces.filter((piece) => piece.seam);
const tubes = (fit: FitWorkup) => fit.pieces.filter((piece) => piece.piece.kind === 'tube');
const ends = (fit: FitWorkup) =>
  tubes(fit).flatMap((piece) => (['a', 'b'] as const).map((end) => ({ piece, end })));
const atSeam = (kind: Kind) => kind === 'lines' || kind === 'seam_gap';

/** The places that a kind of reading may be taken at; none of those that are at a clock. */
export function placesOf(kind: Kind, fit: FitWorkup, workup: Workup): Options {
  if (kind === 'angle')
    return fit.bends.map((bend, index) => [String(index), `bend ${bend.number}`] as const);
  if (kind === 'length') return tubes(fit).map((piece, index) => [String(index), piece.name] as const);
  if (atSeam(kind)) return seams(fit).map((piece, index) => [String(index), `after ${piece.name}`] as const);
  if (kind === 'touches')
    return (workup.air?.things ?? []).flatMap(({ thing, name }) =>
      thing.is === 'keep_out' ? [[String(thing.keep_out), name] as const] : [],
    );
  if (kind === 'two_ways')
    return ends(fit).map(({ piece, end }, index) => [
      String(index),
      `${piece.name}, ${end.toUpperCase()} end`,
    ]);
  return [];
}

/** A reading at a place, of one figure or of two; nothing where there is no such place. */
export function readingAt(
  kind: Kind,
  place: Place,
  fit: FitWorkup,
  [figure, other]: readonly [number, number],
): FitReading | undefined {
  const clock = Number(place.clock);
  const at = Number(place.at);
  if (kind === 'mouth_gap' || kind === 'mouth_step') return { reads: kind, clock, mm: figure };
  if (kind === 'end_to_end') return { reads: kind, from: clock, to: Number(place.to), mm: figure };
  if (kind === 'touches') return place.at === '' ? undefined : { reads: kind, keep_out: at };
  if (kind === 'angle') {
    const bend = fit.bends[at];
    return bend && { reads: kind, bend: bend.bend, degrees: figure };
  }
  if (kind === 'two_ways') {
    const found = ends(fit)[at];
    return found && { reads: kind, piece: found.piece.piece, end: found.end, one: figure, other };
  }
  if (kind === 'rough') return undefined;
  const piece = (atSeam(kind) ? seams(fit) : tubes(fit))[at];
  return piece && { reads: kind, piece: piece.piece, mm: figure };
}

/** Where a reading was taken. */
export function placeOf(reading: FitReading, fit: FitWorkup): Place {
  const place: Place = { clock: '0', to: '0', at: '0' };
  const found = (index: number) => ({ ...place, at: String(Math.max(index, 0)) });
  switch (reading.reads) {
    case 'mouth_gap':
    case 'mouth_step':
      return { ...place, clock: String(reading.clock) };
    case 'end_to_end':
      return { ...place, clock: String(reading.from), to: String(reading.to) };
    case 'angle':
      return found(fit.bends.findIndex((bend) => bend.bend === reading.bend));
    case 'length':
      return found(tubes(fit).findIndex((piece) => same(piece.piece, reading.piece)));
    case 'lines':
    case 'seam_gap':
      return found(seams(fit).findIndex((piece) => same(piece.piece, reading.piece)));
    case 'two_ways':
      return found(
        ends(fit).findIndex(({ piece, end }) => end === reading.end && same(piece.piece, reading.piece)),
      );
    case 'touches':
      return { ...place, at: String(reading.keep_out) };
    default:
      return place;
  }
}

/** The figure of a reading; nothing of those that have none, or three. */
export function figureOf(reading: FitReading): number | undefined {
  if (reading.reads === 'touches' || reading.reads === 'rough' || reading.reads === 'two_ways')
    return undefined;
  return reading.reads === 'angle' ? reading.degrees : reading.mm;
}

/** What is expected of a reading where it is taken. */
export function expectedOf(reading: FitReading, fit: FitWorkup): number | undefined {
  const bare = (one: FitReading) => ({ ...one, mm: 0, degrees: 0 });
  const found = fit.expected.find((one) => same(bare(one), bare(reading)));
  return found && figureOf(found);
}
