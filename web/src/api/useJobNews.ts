import { useQueryClient } from '@tanstack/react-query';
import { useEffect, useState } from 'react';
import { follow } from './events';
import type { JobNews, JobState } from './generated/schema';
import { jobKey, workupsKey } from './hooks';

/** How long the answer to a change of one's own may lag behind the news of it, in ms. */
const OWN_ANSWER = 400;

/**
 * Shows what others do to a job as soon as it is done; counts their changes. A page that nobody looks at does not
 * listen: a browser opens six connections to one server, and each listening page takes one.
 */
export function useJobNews(id: number): number {
  const cache = useQueryClient();
  const [others, setOthers] = useState(0);
  useEffect(() => {
    let stop: AbortController | undefined;
    const catchUp = (revision: number) => {
      const shown = cache.getQueryData<JobState>(jobKey(id))?.revision ?? 0;
      if (shown >= revision) return;
      setOthers((count) => count + 1);
      void cache.invalidateQueries({ queryKey: jobKey(id) });
    };
    const tell = (news: JobNews) => {
      if (news.is === 'deleted') void cache.invalidateQueries({ queryKey: jobKey(id) });
      else if (news.is === 'deed') void cache.invalidateQueries({ queryKey: workupsKey(id) });
      else if (news.own) setTimeout(() => catchUp(news.revision), OWN_ANSWER);
      else catchUp(news.revision);
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
