import { useQuery } from '@tanstack/react-query';
import { answered, ServerProblem, server, words } from './client';
import { events } from './events';
import type { JobState, Offer, RoutesFound, WaysNews, WaysStanding } from './generated/schema';

export const lookedForKey = ['looked-for'];

/** How the looking for a run's ways stands: not looked at yet, looking, or known. */
export function useWaysStanding(state: JobState, run: number): WaysStanding | undefined {
  const { data } = useQuery({
    queryKey: [...lookedForKey, state.id, state.revision],
    placeholderData: (before) => before,
    queryFn: () => answered(server.GET('/api/jobs/{id}/looked-for', { params: { path: { id: state.id } } })),
  });
  return data?.find((one) => one.run === run)?.ways;
}

/** How a search stands. */
export interface Search {
  /** 0 to 1, and with what; nothing once it is over. */
  progress?: { step: string; share: number };
  /** Ways that fit, as they come. */
  early: Offer[];
  found?: RoutesFound;
  problem?: string;
}

/** Looks for ways round and tells how it stands; the answer stops it. */
export function lookForWays(job: number, run: number, tell: (search: Search) => void): () => void {
  const stop = new AbortController();
  void look(`/api/jobs/${job}/runs/${run}/search`, stop.signal, tell);
  return () => stop.abort();
}

async function look(path: string, signal: AbortSignal, tell: (search: Search) => void) {
  let search: Search = { progress: { step: 'legs', share: 0 }, early: [] };
  tell(search);
  try {
    for await (const news of events<WaysNews>(path, { signal })) {
      if (signal.aborted) return;
      switch (news.is) {
        case 'progress':
          search = { ...search, progress: { step: news.step, share: news.share } };
          break;
        case 'found':
          search = { ...search, early: [...search.early, news.offer] };
          break;
        case 'done':
          return tell({ early: [], found: news.found });
        case 'refused':
          throw new ServerProblem(news.problem);
      }
      tell(search);
    }
    tell({ early: [], problem: 'Nook Bend stopped before the search was over. Look again.' });
  } catch (error) {
    if (!signal.aborted) tell({ early: [], problem: words(error) });
  }
}
