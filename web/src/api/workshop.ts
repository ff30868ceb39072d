import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { answered, asItIs, server, words } from './client';
import type { WorkshopEdit, WorkshopState } from './generated/schema';

export const workshopKey = ['workshop'];

/** What the builder works with, whatever the job. */
export function useWorkshop() {
  return useQuery({ queryKey: workshopKey, queryFn: () => answered(server.GET('/api/workshop')) });
}

/** Takes the shelf from a table, or the whole workshop from its file. */
export function useTakeWorkshop() {
  const cache = useQueryClient();
  return useMutation({
    scope: { id: 'workshop' },
    mutationFn: ({ what, file }: { what: 'shelf' | 'workshop'; file: File }) => {
      const revision = cache.getQueryData<WorkshopState>(workshopKey)?.revision ?? 0;
      const raw = { params: { header: { 'If-Match': `"${revision}"` } }, ...asItIs(file) };
      return what === 'shelf'
        ? answered(server.POST('/api/workshop/shelf.csv', raw))
        : answered(server.POST('/api/workshop/file', raw));
    },
    onSuccess: (state) => cache.setQueryData(workshopKey, state),
    onError: () => cache.invalidateQueries({ queryKey: workshopKey }),
  });
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

/** The same, with what went wrong kept to be shown. */
export function useKeepSaying() {
  const { mutateAsync, isPending } = useKeepWorkshop();
  const [problem, setProblem] = useState<string>();
  const keep = async (edit: WorkshopEdit) => {
    try {
      await mutateAsync(edit);
      setProblem(undefined);
      return true;
    } catch (error) {
      setProblem(words(error));
      return false;
    }
  };
  return { keep, isPending, problem, understood: () => setProblem(undefined) };
}
