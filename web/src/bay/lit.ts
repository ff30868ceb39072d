import type { ClearanceThing, Workup } from '../api/generated/schema';
import type { Selected, Sight } from '../kit/bench';

/** How something near is drawn: fouled, too near, near, or looked at. */
export type LitLook = 'fouls' | 'tight' | 'near' | 'lit';

/** Something that matters to the pipe in hand, and so is drawn with a body, a full outline and its name. */
export interface Lit {
  look: LitLook;
  /** How near it comes, where it is near. */
  near?: ClearanceThing;
}

/** What matters: keep-outs and other runs, by their numbers. */
export interface LitThings {
  keepOuts: Map<number, Lit>;
  runs: Map<number, Lit>;
}

/** About as many things as an eye takes in. */
const ABOUT = 5;
/** From this share of its worst roll on, a thing is told as near while the engine is shown rolled. */
const NEARLY = 0.75;

/**
 * What of the bay matters to a pipe: whatever it is too near to or a finding names, then the nearest, about five in all;
 * and what is looked at. While the engine is shown rolled, only what is worst at about that roll.
 */
export function litThings(
  workup: Workup | undefined,
  selected: Selected,
  sight: Sight | undefined,
  roll: number,
  /** The keep-outs that what is selected consists of. */
  body: readonly number[] = [],
): LitThings {
  const lit: LitThings = { keepOuts: new Map(), runs: new Map() };
  const left = (thing: ClearanceThing) => thing.gap.mm - thing.limit.mm;
  const things = [...(workup?.air?.things ?? [])].sort((p, q) => left(p) - left(q));
  const bad = things.filter((thing) => thing.state !== 'clear');
  const clear = things.filter((thing) => thing.state === 'clear');
  for (const near of [...bad, ...clear.slice(0, Math.max(0, ABOUT - bad.length))]) {
    const there = near.roll * roll >= 0 && Math.abs(roll) >= NEARLY * Math.abs(near.roll);
    const shown = roll === 0 || there;
    const look = near.state === 'clear' || !shown ? 'near' : near.state;
    if (near.thing.is === 'keep_out') lit.keepOuts.set(near.thing.keep_out, { look, near });
    if (near.thing.is === 'run') lit.runs.set(near.thing.run, { look, near });
  }
  // What a finding names, such as something hot near a hose or a scan that is not here.
  for (const { part, against, severity } of workup?.findings ?? []) {
    const look = severity === 'error' ? 'fouls' : 'tight';
    const named =
      part.part === 'keep_out' ? part.keep_out : against?.is === 'keep_out' ? against.keep_out : undefined;
    if (named !== undefined && severity !== 'info' && !lit.keepOuts.has(named))
      lit.keepOuts.set(named, { look });
  }
  for (const id of selected.part === 'keep_out' ? [selected.keep_out] : body)
    lit.keepOuts.set(id, { ...lit.keepOuts.get(id), look: 'lit' });
  // What a pair of things that should not meet is looked at for.
  if (sight?.part.part === 'keep_out' && sight.against?.is === 'keep_out')
    lit.keepOuts.set(sight.against.keep_out, { look: 'fouls' });
  if (sight?.against?.is === 'run' && !lit.runs.has(sight.against.run))
    lit.runs.set(sight.against.run, { look: 'tight' });
  return lit;
}
