import { useQuery } from '@tanstack/react-query';
import { answered, server } from '../api/client';
import type { JobState } from '../api/generated/schema';
import { workupsKey } from '../api/hooks';
import { useWorkshop } from '../api/workshop';

/** How a run's pipe is welded with what the workshop has; only asked for where it is shown. */
export function useWeld(state: JobState, run: number | undefined, shown: boolean) {
  // The plan follows from the workshop too.
  const workshop = useWorkshop().data?.revision;
  const { data } = useQuery({
    queryKey: [...workupsKey(state.id), 'weld', state.revision, workshop, run],
    enabled: shown && run !== undefined,
    placeholderData: (before) => before,
    queryFn: () =>
      answered(
        server.GET('/api/jobs/{id}/runs/{run}/weld', { params: { path: { id: state.id, run: run ?? 0 } } }),
      ),
  });
  return shown && data?.run === run ? data : undefined;
}
