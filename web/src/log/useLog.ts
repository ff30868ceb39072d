import { useQuery } from '@tanstack/react-query';
import { answered, server } from '../api/client';
import type { JobState } from '../api/generated/schema';
import { workupsKey } from '../api/hooks';
import { useWorkshop } from '../api/workshop';

/** What was done on a job, what was planned, and what it took. */
export function useLog(state: JobState) {
  return useQuery({
    queryKey: [...workupsKey(state.id), 'log', state.revision],
    queryFn: () => answered(server.GET('/api/jobs/{id}/log', { params: { path: { id: state.id } } })),
  });
}

/** Lessons that matter at the steps of a run. */
export function useLessons(state: JobState, run: number) {
  const workshop = useWorkshop().data?.revision;
  const { data } = useQuery({
    queryKey: [...workupsKey(state.id), 'lessons', state.revision, workshop, run],
    placeholderData: (before) => before,
    queryFn: () =>
      answered(server.GET('/api/jobs/{id}/runs/{run}/lessons', { params: { path: { id: state.id, run } } })),
  });
  return data ?? [];
}
