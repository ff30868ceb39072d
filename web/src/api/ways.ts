import { ServerProblem } from './client';
import type { Offer, WaysFound, WaysNews } from './generated/schema';

/** How a search stands. */
export interface Search {
  /** 0 to 1, and with what; nothing once it is over. */
  progress?: { step: string; share: number };
  /** Ways that fit, as they come. */
  early: Offer[];
  found?: WaysFound;
  problem?: string;
}

/** Looks for ways round and tells how it stands; the answer stops it. */
export function lookForWays(job: number, run: number, tell: (search: Search) => void): () => void {
  const source = new EventSource(`/api/jobs/${job}/runs/${run}/search`);
  let search: Search = { progress: { step: 'legs', share: 0 }, early: [] };
  tell(search);
  source.onmessage = (event: MessageEvent<string>) => {
    const news = JSON.parse(event.data) as WaysNews;
    switch (news.is) {
      case 'progress':
        search = { ...search, progress: { step: news.step, share: news.share } };
        break;
      case 'found':
        search = { ...search, early: [...search.early, news.offer] };
        break;
      case 'done':
        source.close();
        search = { early: [], found: news.found };
        break;
      case 'refused':
        source.close();
        search = { early: [], problem: new ServerProblem(news.problem).message };
        break;
    }
    tell(search);
  };
  source.onerror = () => {
    source.close();
    tell({ early: [], problem: 'Nook Bend stopped before the search was over. Look again.' });
  };
  return () => source.close();
}
