import type { BayWorkup, KeepOutWorkup, SeamWorkup } from '../api/generated/schema';
import { figure, isWhole, samePart, type useBench } from '../kit/bench';
import type { Drawing } from '../kit/useDrawing';
import { along, STUB } from './EndMark';
import type { BayLabel } from './Labels';
import type { Lit, LitLook, LitThings } from './lit';
import { middleOf } from './placing';
import { measuredThing } from './Survey';

type Triple = [number, number, number];
type BenchState = ReturnType<typeof useBench.getState>;

export interface Pointed {
  keepOut: number | undefined;
  run: number | undefined;
}

interface Given {
  bay: BayWorkup;
  drawing: Drawing;
  lit: LitThings;
  measuring: boolean;
  pointed: Pointed;
  bench: Pick<BenchState, 'selected' | 'stage' | 'unit' | 'layers' | 'between'>;
}

const looks: Record<LitLook, BayLabel['look']> = { lit: 'lit', fouls: 'fouls', tight: 'tight', near: 'name' };

/** What is named in the bay, and how: the most telling first, since one that would cover an earlier one is left out. */
export function labelsOf(given: Given): BayLabel[] {
  const { bay, drawing, lit, measuring, pointed, bench } = given;
  const { selected, stage } = bench;
  const run = drawing.workup?.run ?? 0;
  const ends = (drawing.workup?.ends ?? []).map((end) => ({
    key: end.end,
    at: along(end, -STUB),
    text: `${end.end.toUpperCase()} ${end.name}`,
    look: samePart(selected, { part: 'end', run, end: end.end }) ? ('lit' as const) : ('end' as const),
  }));
  const pipes = bay.pipes
    .filter((pipe) => pipe.run !== run && (pipe.run === pointed.run || isBad(lit.runs.get(pipe.run))))
    .map((pipe) => ({
      key: `run ${pipe.run}`,
      at: lit.runs.get(pipe.run)?.near?.line?.to ?? (pipe.line[Math.floor(pipe.line.length / 2)] as Triple),
      text: withGap(pipe.name, lit.runs.get(pipe.run), bench.unit),
      look: looks[lit.runs.get(pipe.run)?.look ?? 'near'],
    }));
  const things = bay.keep_outs.flatMap((one) => named(one, given) ?? []);
  const order: BayLabel['look'][] = ['lit', 'fouls', 'tight', 'end', 'name'];
  const all = [...ends, ...things, ...pipes];
  all.sort((p, q) => order.indexOf(p.look) - order.indexOf(q.look));
  if (!bench.layers.names) {
    return all.filter(({ look, key }) => look !== 'name' || key === String(pointed.keepOut));
  }
  // A datum's name matters while something is taped from it or it is looked at.
  const taped = measuring && (selected.part === 'datum' || selected.part === 'end' || isWhole(selected));
  const datums = (taped && (stage === 'datums' || !isWhole(selected)) ? bay.datums : []).map((datum) => ({
    key: `datum ${datum.datum}`,
    at: datum.at.map((c) => c.mm) as Triple,
    text: datum.name,
    look: samePart(selected, { part: 'datum', datum: datum.datum }) ? ('lit' as const) : ('name' as const),
  }));
  return [...suspectOf(given), ...all, ...datums];
}

const isBad = (lit: Lit | undefined) => lit?.look === 'fouls' || lit?.look === 'tight';

function withGap(name: string, lit: Lit | undefined, unit: BenchState['unit']): string {
  return lit?.near && lit.look !== 'lit' ? `${name} ${figure(lit.near.gap, unit)}` : name;
}

/** A keep-out's name, where it has one on the screen. */
function named(
  one: KeepOutWorkup,
  { bay, drawing, lit, measuring, pointed, bench }: Given,
): BayLabel | undefined {
  const { selected, stage } = bench;
  const known = lit.keepOuts.get(one.keep_out);
  const run = drawing.workup?.run;
  const underMouth = bay.ports.some((port) => port.port.run === run && port.on === one.keep_out);
  // While the bay is measured: what the open list is about, as long as nothing of it is looked at.
  const listed =
    measuring && isWhole(selected) && (stage === 'boxes' ? one.big : stage === 'way' && !one.big);
  const looked = known?.look === 'lit' || one.keep_out === pointed.keepOut;
  const shown = measuring ? looked || listed : looked || known !== undefined || underMouth;
  if (!shown) return undefined;
  const look = measuring && known?.look !== 'lit' ? 'near' : (known?.look ?? 'near');
  const name = one.standing === 'missing' ? `${one.name}, missing` : one.name;
  const at = !measuring && isBad(known) && known?.near?.line ? known.near.line.to : middleOf(one);
  return {
    key: String(one.keep_out),
    at: at as Triple,
    text: measuring ? name : withGap(name, known, bench.unit),
    look: looks[look],
  };
}

/** The reading that looks wrong of what is measured, at the middle of its tape. */
function suspectOf({ bay, drawing, measuring, bench }: Given): BayLabel[] {
  const thing = measuring ? measuredThing(bay, bench.selected, drawing.workup?.run) : undefined;
  const suspect = thing?.found.readings.find((reading) => reading.suspect);
  const [from, to] = suspect?.line ?? [];
  if (!suspect || !from || !to) return [];
  const at = from.map((c, axis) => (c + (to[axis] ?? c)) / 2) as Triple;
  return [{ key: 'suspect', at, text: `${suspect.name}?`, look: 'wrong' }];
}

/** Numbers of welds where they are: the next to weld, or the one that is looked at, is lit. */
export function seamLabels(
  seams: readonly SeamWorkup[] | undefined,
  selected: BenchState['selected'],
): BayLabel[] {
  const next = Math.min(...(seams ?? []).filter((seam) => !seam.welded).map((seam) => seam.turn));
  const labels = (seams ?? []).map((seam) => {
    const lit = samePart(selected, seam.part) || seam.turn === next;
    const look: BayLabel['look'] = lit ? 'lit' : 'end';
    return { key: `seam ${seam.number}`, at: seam.at as Triple, text: String(seam.number), look };
  });
  // What is lit is put first, so that no other number takes its place.
  return labels.sort((one, other) => Number(other.look === 'lit') - Number(one.look === 'lit'));
}
