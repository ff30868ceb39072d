import { useQuery } from '@tanstack/react-query';
import { answered, server } from '../api/client';
import type { JobState, Workup } from '../api/generated/schema';
import { token } from '../theme';
import { useBench } from './bench';

/** A way drawn beside the one taken. */
export interface Shown {
  name: string;
  workup: Workup;
  colour: number;
}

/** Colours of the ways shown beside, on dye and on paper. */
export const shownColours = token.shown;

/** The way taken and those kept beside it, each worked out. */
export function useKept(state: JobState, run: number | undefined) {
  return useQuery({
    queryKey: ['kept', state.id, state.revision, run],
    enabled: run !== undefined && (state.job.runs.find((one) => one.id === run)?.kept?.length ?? 0) > 0,
    placeholderData: (before) => before,
    queryFn: () =>
      answered(
        server.GET('/api/jobs/{id}/runs/{run}/kept', { params: { path: { id: state.id, run: run ?? 0 } } }),
      ),
  });
}

/** The kept ways that were chosen to be shown. */
export function useShown(state: JobState, run: number | undefined): Shown[] {
  const beside = useBench((bench) => bench.beside);
  const kept = useKept(state, run);
  return (kept.data ?? []).flatMap((way) => {
    const colour = way.kept == null ? -1 : beside.indexOf(way.kept);
    return colour < 0
      ? []
      : [{ name: way.name ?? '', workup: way.workup, colour: colour % shownColours.length }];
  });
}

/** By how much the air of a pipe and of its mirrored twin differ. */
export function useTwin(state: JobState, run: number, linked: boolean) {
  return useQuery({
    queryKey: ['twin', state.id, state.revision, run],
    enabled: linked,
    placeholderData: (before) => before,
    queryFn: () =>
      answered(server.GET('/api/jobs/{id}/runs/{run}/twin', { params: { path: { id: state.id, run } } })),
  });
}
