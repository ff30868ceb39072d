import { useCallback, useEffect, useMemo, useRef, useState } from 'react';
import { answered, ServerProblem, server, words } from '../api/client';
import type {
  BayWorkup,
  DualUnitText,
  Edit,
  JobState,
  PartRef,
  RunGlance,
  Workup,
} from '../api/generated/schema';
import { useBay, useKeep, useWorkup } from '../api/hooks';
import { PreviewQueue } from './previewQueue';

/** How an edit is tried, kept and taken back; shared by rod, bay and pad. */
export interface Drawing {
  /** What is drawn: the preview of a drag, else what is kept. */
  workup: Workup | undefined;
  /** The bay likewise. */
  bay: BayWorkup | undefined;
  /** Runs that end on what a drag moves, as they would be; empty while nothing is moved. */
  runs: RunGlance[];
  /** Shows what an edit would lead to, of the pipe and of the bay; keeps nothing. */
  propose: (edit: Edit) => void;
  /** Keeps an edit and tells what it made; false when it was refused and why is in `problem`. */
  keep: (edit: Edit) => Promise<PartRef[] | false>;
  /** What holds the drag that is under way, where it does not get all the way. */
  held: DualUnitText | undefined;
  undo: () => void;
  redo: () => void;
  /** Forgets a preview. */
  drop: () => void;
  /** Why the last edit was refused. */
  problem: string | undefined;
  /** Says why something else was refused. */
  say: (problem: string) => void;
  clearProblem: () => void;
}

function usePreview<T, A>(
  ask: (change: A) => Promise<T>,
  onProblem: (problem: string | undefined) => void,
  /** A change of this makes a preview stale. */
  kept: unknown,
) {
  const [preview, setPreview] = useState<T>();
  const latest = useRef(ask);
  latest.current = ask;
  const queue = useMemo(
    () =>
      new PreviewQueue<A, T>((change) => latest.current(change), {
        show: (answer) => {
          setPreview(answer);
          if (answer !== undefined) onProblem(undefined);
        },
        // A drag that cannot go further stops where it was, and says what holds it.
        refuse: (error) => onProblem(words(error)),
      }),
    [onProblem],
  );
  const drop = useCallback(() => queue.drop(), [queue]);
  const propose = useCallback((change: A) => queue.propose(change), [queue]);

  // biome-ignore lint/correctness/useExhaustiveDependencies: a new revision or run makes an old preview stale
  useEffect(drop, [kept]);

  return { preview, propose, drop };
}

/** One run's workup and the bay, with previews. */
export function useDrawing(state: JobState, run: number | undefined): Drawing {
  const kept = useWorkup(state, run);
  const keptBay = useBay(state);
  const { mutateAsync } = useKeep(state.id);
  const [problem, setProblem] = useState<string>();
  const { preview, propose, drop } = usePreview(
    (edit: Edit) =>
      answered(
        server.POST('/api/jobs/{id}/preview', {
          params: { path: { id: state.id } },
          body: { edit, run: run ?? null },
        }),
      ),
    setProblem,
    kept.data ?? keptBay.data,
  );

  const change = useCallback(
    async (what: Parameters<typeof mutateAsync>[0]) => {
      try {
        const { made } = await mutateAsync(what);
        setProblem(undefined);
        return made;
      } catch (error) {
        drop();
        const nothing = error instanceof ServerProblem && error.problem.status === 409;
        if (!nothing) setProblem(words(error));
        return false;
      }
    },
    [mutateAsync, drop],
  );

  return {
    workup: preview?.workup ?? kept.data,
    bay: preview?.bay ?? keptBay.data,
    runs: preview?.runs ?? [],
    propose,
    keep: useCallback((edit: Edit) => change({ edit }), [change]),
    held: preview?.held ?? undefined,
    undo: useCallback(() => void change({ step: 'undo' }), [change]),
    redo: useCallback(() => void change({ step: 'redo' }), [change]),
    drop: useCallback(() => {
      drop();
      setProblem(undefined);
    }, [drop]),
    problem,
    say: setProblem,
    clearProblem: useCallback(() => setProblem(undefined), []),
  };
}
