import { useEffect, useRef, useState } from 'react';
import { ServerProblem, words } from './client';
import { events } from './events';
import type { ApartNews } from './generated/schema';

type Answer<K> = Extract<ApartNews, { is: K }> extends { found: infer T } ? T : never;

/** How a search for a way out stands. */
export interface Looked<T> {
  /** 0 to 1; nothing once it is over. */
  share?: number;
  found?: T;
  problem?: string;
}

/** Looks for how something comes apart, tells how that stands, and calls it off when nobody looks any more. What was found is
 * forgotten with the revision it was found of. */
export function useApart<K extends 'section' | 'order' | 'partings'>(kind: K, revision: number) {
  const [looked, setLooked] = useState<Looked<Answer<K>>>();
  const stop = useRef<AbortController>(undefined);
  // biome-ignore lint/correctness/useExhaustiveDependencies: another revision makes it stale
  useEffect(() => {
    setLooked(undefined);
    return () => stop.current?.abort();
  }, [revision]);
  const look = (path: string) => {
    stop.current?.abort();
    stop.current = new AbortController();
    void follow(kind, path, stop.current.signal, setLooked);
  };
  const callOff = () => {
    stop.current?.abort();
    setLooked(undefined);
  };
  return { looked, look, callOff };
}

async function follow<K extends ApartNews['is']>(
  kind: K,
  path: string,
  signal: AbortSignal,
  tell: (looked: Looked<Answer<K>>) => void,
) {
  tell({ share: 0 });
  try {
    for await (const news of events<ApartNews>(path, { signal })) {
      if (signal.aborted) return;
      if (news.is === 'refused') throw new ServerProblem(news.problem);
      if (news.is === kind && 'found' in news) return tell({ found: news.found as Answer<K> });
      if (news.is === 'progress') tell({ share: news.share });
    }
    tell({ problem: 'Nook Bend stopped before the search was over. Look again.' });
  } catch (error) {
    if (!signal.aborted) tell({ problem: words(error) });
  }
}
