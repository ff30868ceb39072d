import { ServerProblem, words } from './client';
import { events } from './events';
import type { PlaceOffer, PlacesFound, PlacesNews } from './generated/schema';

/** How a search for a component's place stands. */
export interface PlaceSearch {
  /** 0 to 1; nothing once it is over. */
  share?: number;
  /** Places as they come. */
  early: PlaceOffer[];
  found?: PlacesFound;
  problem?: string;
}

/** Looks for places of a component and tells how it stands; the answer stops it. */
export function lookForPlaces(
  job: number,
  component: number,
  tell: (search: PlaceSearch) => void,
): () => void {
  const stop = new AbortController();
  void look(`/api/jobs/${job}/components/${component}/places`, stop.signal, tell);
  return () => stop.abort();
}

async function look(path: string, signal: AbortSignal, tell: (search: PlaceSearch) => void) {
  let search: PlaceSearch = { share: 0, early: [] };
  tell(search);
  try {
    for await (const news of events<PlacesNews>(path, { signal })) {
      if (signal.aborted) return;
      if (news.is === 'refused') throw new ServerProblem(news.problem);
      if (news.is === 'done') return tell({ early: [], found: news.found });
      if (news.is === 'progress') search = { ...search, share: news.share };
      else search = { ...search, early: [...search.early, news.offer] };
      tell(search);
    }
    tell({ early: [], problem: 'Nook Bend stopped before the search was over. Look again.' });
  } catch (error) {
    if (!signal.aborted) tell({ early: [], problem: words(error) });
  }
}
