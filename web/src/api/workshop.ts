import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { answered, server } from './client';
import type { WorkshopEdit, WorkshopState } from './generated/schema';

const workshopKey = ['workshop'];

/** What the builder works with, whatever the job. */
export function useWorkshop() {
  return useQuery({ queryKey: workshopKey, queryFn: () => answered(server.GET('/api/workshop')) });
}

/** Changes the workshop, one change after the other. */
export function useKeepWorkshop() {
  const cache = useQueryClient();
  return useMutation({
    scope: { id: 'workshop' },
    mutationFn: (body: WorkshopEdit) => {
      const revision = cache.getQueryData<WorkshopState>(workshopKey)?.revision ?? 0;
      const params = { header: { 'If-Match': `"${revision}"` } };
      return answered(server.POST('/api/workshop/edits', { params, body }));
    },
    onSuccess: (state) => cache.setQueryData(workshopKey, state),
    // Someone else was first: show what the workshop is now.
    onError: () => cache.invalidateQueries({ queryKey: workshopKey }),
  });
}
