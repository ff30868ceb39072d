import type { CardWorkup, Done } from '../api/generated/schema';
import type { Waiting } from './deedQueue';

const same = (one: unknown, other: unknown) => JSON.stringify(one) === JSON.stringify(other);

/** What a deed makes of a card: done, not done, or nothing. */
function after(card: CardWorkup, done: Done): boolean | undefined {
  if (same(done, card.does)) return true;
  if (same(done, card.undoes)) return false;
  if (!card.piece || !('piece' in done) || !same(done.piece, card.piece.piece)) return undefined;
  // The piece came out otherwise than its list has it, or was spoilt.
  return done.deed === 'cut';
}

/** Whether a card is done, counting what the server has not got yet. */
export function isDone(card: CardWorkup, waiting: readonly Waiting[], job: number): boolean {
  const mine = waiting.filter((one) => one.job === job && one.deed.done.run === card.does?.run);
  return mine.reduce((done, one) => after(card, one.deed.done) ?? done, card.done);
}

/** The first card from `from` on that is not done, then any before it; the one asked about where all are. */
export function nextOpen(done: readonly boolean[], from: number): number {
  const open = (at: number) => done[at] === false;
  const places = [...done.keys()];
  return places.slice(from).find(open) ?? places.find(open) ?? Math.max(0, Math.min(from, done.length - 1));
}
