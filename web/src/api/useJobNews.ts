import { useQueryClient } from '@tanstack/react-query';
import { useEffect, useState } from 'react';
import { follow } from './events';
import type { JobNews, JobState } from './generated/schema';
import { jobKey, rackKey, workupsKey } from './hooks';

/** How long the answer to a change of one's own may lag behind the news of it, in ms. */
const OWN_ANSWER = 400;

/** What others changed last, and how often they changed something. */
export interface OthersNews {
  times: number;
  what: string | undefined;
}

/**
 * Shows what others do to a job as soon as it is done, and tells what. A page that nobody looks at does not
 * listen: a browser opens six connections to one server, and each listening page takes one.
 */
export function useJobNews(id: number): OthersNews {
  const cache = useQueryClient();
  const [others, setOthers] = useState<OthersNews>({ times: 0, what: undefined });
  useEffect(() => {
    let stop: AbortController | undefined;
    const catchUp = (revision: number, what: string | null | undefined) => {
      const shown = cache.getQueryData<JobState>(jobKey(id))?.revision ?? 0;
      if (shown >= revision) return;
      setOthers(({ times }) => ({ times: times + 1, what: what ?? undefined }));
      void cache.invalidateQueries({ queryKey: jobKey(id) });
    };
    const tell = (news: JobNews) => {
      if (news.is === 'deleted') void cache.invalidateQueries({ queryKey: jobKey(id) });
      else if (news.is === 'deed') {
        void cache.invalidateQueries({ queryKey: workupsKey(id) });
        void cache.invalidateQueries({ queryKey: rackKey(id) });
      } else if (news.own) setTimeout(() => catchUp(news.revision, news.what), OWN_ANSWER);
      else catchUp(news.revision, news.what);
    };
    const listen = () => {
      stop?.abort();
      if (document.visibilityState === 'hidden') return;
      stop = new AbortController();
      void follow<JobNews>(`/api/jobs/${id}/changes`, stop.signal, tell);
    };
    listen();
    document.addEventListener('visibilitychange', listen);
    return () => {
      document.removeEventListener('visibilitychange', listen);
      stop?.abort();
    };
  }, [cache, id]);
  return others;
}
