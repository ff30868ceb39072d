import { keepPreviousData, useQuery } from '@tanstack/react-query';
import { answered, server } from '../api/client';
import type { JobState } from '../api/generated/schema';
import { workupsKey } from '../api/hooks';

/** Whether a run's pipe is done. */
export function useProve(state: JobState, run: number) {
  const { data } = useQuery({
    queryKey: [...workupsKey(state.id), 'prove', state.revision, run],
    placeholderData: keepPreviousData,
    queryFn: () =>
      answered(server.GET('/api/jobs/{id}/runs/{run}/prove', { params: { path: { id: state.id, run } } })),
  });
  return data?.run === run ? data : undefined;
}
