import { useMutation, useQueryClient } from '@tanstack/react-query';
import { author } from './author';
import { answered, server } from './client';
import type { Done, SawnFrom } from './generated/schema';
import { workupsKey } from './hooks';
import { workshopKey } from './workshop';

/** Notes that a stick or an elbow of the plan was sawn: its pieces are cut, and what is left of it is on the shelf. */
export function useSawn(job: number) {
  const cache = useQueryClient();
  return useMutation({
    mutationFn: (from: SawnFrom) => {
      const body = { id: crypto.randomUUID(), by: author, from };
      return answered(server.POST('/api/jobs/{id}/stock/sawn', { params: { path: { id: job } }, body }));
    },
    onSettled: () =>
      Promise.all([
        cache.invalidateQueries({ queryKey: workupsKey(job) }),
        cache.invalidateQueries({ queryKey: workshopKey }),
      ]),
  });
}

/** Adds a deed to a job's record; undo does not touch it. */
export function useDeed(job: number) {
  const cache = useQueryClient();
  return useMutation({
    mutationFn: (done: Done) => {
      const body = { id: crypto.randomUUID(), by: author, done };
      return answered(server.POST('/api/jobs/{id}/record', { params: { path: { id: job } }, body }));
    },
    onSettled: () => cache.invalidateQueries({ queryKey: workupsKey(job) }),
  });
}
