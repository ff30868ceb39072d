import type { BayWorkup, KeepOutWorkup } from '../api/generated/schema';
import { isWhole, type Stage, samePart, type useBench } from '../kit/bench';
import type { Drawing } from '../kit/useDrawing';
import { along, STUB } from './EndMark';
import { middleOf } from './KeepOutBody';
import type { BayLabel } from './Labels';
import { measuredThing } from './Survey';

type Triple = [number, number, number];

/** What is named in the bay, and how. */
export function labelsOf(
  bay: BayWorkup,
  drawing: Drawing,
  selected: ReturnType<typeof useBench.getState>['selected'],
  measuring: boolean,
  hovered: number | undefined,
  stage: Stage,
): BayLabel[] {
  const run = drawing.workup?.run ?? 0;
  const ends = (drawing.workup?.ends ?? []).map((end) => ({
    key: end.end,
    at: along(end, -STUB),
    text: `${end.end.toUpperCase()} ${end.name}`,
    look: samePart(selected, { part: 'end', run, end: end.end }) ? ('lit' as const) : ('end' as const),
  }));
  const isLit = (one: KeepOutWorkup) => samePart(selected, { part: 'keep_out', keep_out: one.keep_out });
  const lit = measuring ? bay.keep_outs.filter(isLit) : [];
  const thing = measuring ? measuredThing(bay, selected, drawing.workup?.run) : undefined;
  const suspect = thing?.found.readings.find((reading) => reading.suspect);
  const [from, to] = suspect?.line ?? [];
  const wrong =
    suspect && from && to
      ? [
          {
            key: 'suspect',
            at: from.map((c, axis) => (c + (to[axis] ?? c)) / 2) as Triple,
            text: `${suspect.name}?`,
            look: 'wrong' as const,
          },
        ]
      : [];
  // A datum's name matters while something is taped from it or it is looked at.
  const named = measuring && (selected.part === 'datum' || selected.part === 'end' || isWhole(selected));
  const datums = (named ? bay.datums : []).map((datum) => ({
    key: `datum ${datum.datum}`,
    at: datum.at.map((c) => c.mm) as Triple,
    text: datum.name,
    look: samePart(selected, { part: 'datum', datum: datum.datum }) ? ('lit' as const) : ('name' as const),
  }));
  // All names only while nothing is looked at: beside the one that is they are noise.
  const idle = measuring && isWhole(selected);
  const shown = bay.keep_outs.filter(
    (one) => !isLit(one) && (one.keep_out === hovered || (measuring && one.big) || (idle && stage === 'way')),
  );
  const names = shown.map((one) => ({
    key: String(one.keep_out),
    at: middleOf(one),
    text: one.standing === 'missing' ? `${one.name}, missing` : one.name,
    look: 'name' as const,
  }));
  const chosen = lit.map((one) => ({
    key: String(one.keep_out),
    at: middleOf(one),
    text: one.name,
    look: 'lit' as const,
  }));
  return [...chosen, ...wrong, ...ends, ...datums, ...names];
}
