import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { answered, asItIs, ServerProblem, server } from './client';
import type { Edit, JobState, Measure } from './generated/schema';
import { useWorkshop } from './workshop';

export const jobsKey = ['jobs'];
export const jobKey = (id: number) => ['job', id];
/** Every workup of a job: what was done to its metal shows in them as well. */
export const workupsKey = (id: number) => ['workup', id];
const tag = (revision: number) => `"${revision}"`;

export function useJobs() {
  return useQuery({ queryKey: jobsKey, queryFn: () => answered(server.GET('/api/jobs')) });
}

export function useJob(id: number) {
  return useQuery({
    queryKey: jobKey(id),
    queryFn: () => answered(server.GET('/api/jobs/{id}', { params: { path: { id } } })),
  });
}

/** A run's workup at the job's present revision; the last one stays on screen while the next arrives. */
export function useWorkup(state: JobState, run: number | undefined) {
  return useQuery({
    queryKey: [...workupsKey(state.id), state.revision, run],
    enabled: run !== undefined,
    placeholderData: (before) => (before?.run === run ? before : undefined),
    queryFn: () =>
      answered(
        server.GET('/api/jobs/{id}/runs/{run}/workup', { params: { path: { id: state.id, run: run ?? 0 } } }),
      ),
  });
}

/** Where everything in the bay is, at the job's present revision. */
export function useBay(state: JobState) {
  return useQuery({
    queryKey: ['bay', state.id, state.revision],
    placeholderData: (before) => before,
    queryFn: () => answered(server.GET('/api/jobs/{id}/bay', { params: { path: { id: state.id } } })),
  });
}

/** What of all runs is sawn from which stick, with the workshop as it is. */
export function useStockPlan(state: JobState) {
  const workshop = useWorkshop();
  return useQuery({
    queryKey: [...workupsKey(state.id), 'stock', state.revision, workshop.data?.revision],
    enabled: workshop.data !== undefined,
    placeholderData: (before) => before,
    queryFn: () => answered(server.GET('/api/jobs/{id}/stock', { params: { path: { id: state.id } } })),
  });
}

export const rackKey = (id: number) => ['rack', id];

/** How all runs of a job stand; the last answer stays on screen while the next arrives. */
export function useRack(id: number, revision: number | string, wanted = true) {
  return useQuery({
    queryKey: [...rackKey(id), revision],
    enabled: wanted,
    placeholderData: (before) => before,
    queryFn: () => answered(server.GET('/api/jobs/{id}/rack', { params: { path: { id } } })),
  });
}

/** What level, plumb and parallel would cost or save a run. */
export function useTruing(state: JobState, run: number, wanted = true) {
  return useQuery({
    queryKey: ['truing', state.id, state.revision, run],
    enabled: wanted,
    placeholderData: (before) => before,
    queryFn: () =>
      answered(server.GET('/api/jobs/{id}/runs/{run}/truing', { params: { path: { id: state.id, run } } })),
  });
}

/** The scans that are here. */
export function useScans() {
  return useQuery({ queryKey: ['scans'], queryFn: () => answered(server.GET('/api/scans')) });
}

/** Deletes a scan that no job leans on. */
export function useDeleteScan() {
  const cache = useQueryClient();
  return useMutation({
    mutationFn: (id: string) => answered(server.DELETE('/api/scans/{id}', { params: { path: { id } } })),
    onSettled: () => cache.invalidateQueries({ queryKey: ['scans'] }),
  });
}

/** Takes a table of datum points or readings as one change. */
export function useTakeTable(state: JobState, what: 'datums' | 'readings') {
  const cache = useQueryClient();
  return useMutation({
    scope: { id: `job-${state.id}` },
    mutationFn: (file: File) => {
      const params = { path: { id: state.id }, header: { 'If-Match': tag(state.revision) } };
      const raw = { params, ...asItIs(file) };
      return what === 'datums'
        ? answered(server.POST('/api/jobs/{id}/datums.csv', raw))
        : answered(server.POST('/api/jobs/{id}/readings.csv', raw));
    },
    onSuccess: (next) => cache.setQueryData(jobKey(state.id), next),
  });
}

export function useCatalogue() {
  return useQuery({
    queryKey: ['catalogue'],
    staleTime: Number.POSITIVE_INFINITY,
    queryFn: () => answered(server.GET('/api/catalogue')),
  });
}

type Change = { edit: Edit } | { step: 'undo' | 'redo' };

/** Keeps edits, one after the other, each on the revision the one before led to. */
export function useKeep(id: number) {
  const cache = useQueryClient();
  return useMutation({
    scope: { id: `job-${id}` },
    mutationFn: (change: Change) => {
      const revision = cache.getQueryData<JobState>(jobKey(id))?.revision ?? 0;
      const params = { path: { id }, header: { 'If-Match': tag(revision) } };
      if ('edit' in change) {
        return answered(server.POST('/api/jobs/{id}/edits', { params, body: change.edit }));
      }
      return change.step === 'undo'
        ? answered(server.POST('/api/jobs/{id}/undo', { params }))
        : answered(server.POST('/api/jobs/{id}/redo', { params }));
    },
    onSuccess: (state) => cache.setQueryData(jobKey(id), state),
    onError: (error) => {
      // Someone else was first: show what the job is now.
      if (error instanceof ServerProblem && error.problem.revision) {
        void cache.invalidateQueries({ queryKey: jobKey(id) });
      }
    },
  });
}

const reading = new Set<Promise<unknown>>();

/** A typed length, read by the server. */
export function readLength(text: string, unit: 'mm' | 'in'): Promise<Measure> {
  const read = answered(server.POST('/api/length', { body: { text, unit } }));
  reading.add(read);
  const done = () => reading.delete(read);
  read.then(done, done);
  return read;
}

/** Resolves when every length typed so far has been read or refused, and its field has been told. */
export async function lengthsRead(): Promise<void> {
  await Promise.allSettled(reading);
  await new Promise((resolve) => setTimeout(resolve));
}
