import { useQuery } from '@tanstack/react-query';
import { answered, server } from '../api/client';
import type { JobState } from '../api/generated/schema';
import { workupsKey } from '../api/hooks';

/** How a run's pipe fits as far as it is built; only asked for where it is shown. */
export function useFit(state: JobState, run: number | undefined, shown: boolean) {
  const { data } = useQuery({
    queryKey: [...workupsKey(state.id), 'fit', state.revision, run],
    enabled: shown && run !== undefined,
    placeholderData: (before) => before,
    queryFn: () =>
      answered(
        server.GET('/api/jobs/{id}/runs/{run}/fit', { params: { path: { id: state.id, run: run ?? 0 } } }),
      ),
  });
  return shown && data?.run === run ? data : undefined;
}
