import { useRef } from 'react';

/**
 * Changes to one value that is kept as a whole. A change made while an earlier one is still on its way builds on that
 * one and not on what is drawn, so that quick typing loses nothing.
 */
export function useLatest<T, K>(drawn: T, keep: (next: T) => Promise<K>) {
  const latest = useRef<{ drawn: T; next: T }>(undefined);
  return async (change: (now: T) => T): Promise<K> => {
    const next = change(latest.current?.drawn === drawn ? latest.current.next : drawn);
    latest.current = { drawn, next };
    const kept = await keep(next);
    if (!kept) latest.current = undefined;
    return kept;
  };
}
