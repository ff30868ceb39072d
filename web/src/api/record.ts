import { useMutation, useQueryClient } from '@tanstack/react-query';
import { author } from './author';
import { answered, server } from './client';
import type { Done } from './generated/schema';
import { workupsKey } from './hooks';

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
