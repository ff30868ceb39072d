import { useCallback, useEffect, useMemo, useRef, useState } from 'react';
import { answered, ServerProblem, server, words } from '../api/client';
import type { BayWorkup, Drag, DualUnitText, Edit, JobState, Workup } from '../api/generated/schema';
import { useBay, useKeep, useWorkup } from '../api/hooks';
import { PreviewQueue } from './previewQueue';

/** A change of the pipe: an edit, or a drag that goes as far as it can. */
export type Change = Edit | Drag;

/** How an edit is tried, kept and taken back; shared by rod, bay and pad. */
export interface Drawing {
  /** What is drawn: the preview of a drag, else what is kept. */
  workup: Workup | undefined;
  /** The bay likewise. */
  bay: BayWorkup | undefined;
  /** Shows what a change would lead to; keeps nothing. */
  propose: (change: Change) => void;
  /** The same for an edit of the bay. */
  proposeBay: (edit: Edit) => void;
  /** Keeps an edit; false when it was refused and why is in `problem`. */
  keep: (change: Change) => Promise<boolean>;
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

/** How far a change of the pipe gets. */
interface Far {
  workup: Workup;
  held: DualUnitText | undefined;
}

/** One run's workup and the bay, with previews. */
export function useDrawing(state: JobState, run: number | undefined): Drawing {
  const kept = useWorkup(state, run);
  const keptBay = useBay(state);
  const { mutateAsync } = useKeep(state.id);
  const [problem, setProblem] = useState<string>();
  const dragged = useCallback(
    async (drag: Drag) => {
      const params = { path: { id: state.id, run: run ?? 0 } };
      return answered(server.POST('/api/jobs/{id}/runs/{run}/drag', { params, body: drag }));
    },
    [state.id, run],
  );
  const pipe = usePreview(
    async (change: Change): Promise<Far> => {
      const params = { path: { id: state.id, run: run ?? 0 } };
      if ('edit' in change) {
        const workup = await answered(
          server.POST('/api/jobs/{id}/runs/{run}/preview', { params, body: change }),
        );
        return { workup, held: undefined };
      }
      const { workup, held } = await dragged(change);
      return { workup, held: held ?? undefined };
    },
    setProblem,
    kept.data,
  );
  const bay = usePreview(
    (edit: Edit) =>
      answered(server.POST('/api/jobs/{id}/bay/preview', { params: { path: { id: state.id } }, body: edit })),
    setProblem,
    keptBay.data,
  );
  const [dropPipe, dropBay] = [pipe.drop, bay.drop];
  const drop = useCallback(() => {
    dropPipe();
    dropBay();
  }, [dropPipe, dropBay]);

  const change = useCallback(
    async (what: Parameters<typeof mutateAsync>[0]) => {
      try {
        await mutateAsync(what);
        setProblem(undefined);
        return true;
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
    workup: pipe.preview?.workup ?? kept.data,
    bay: bay.preview ?? keptBay.data,
    propose: pipe.propose,
    proposeBay: bay.propose,
    keep: useCallback(
      async (what: Change) => {
        if ('edit' in what) return change({ edit: what });
        try {
          return await change({ edit: (await dragged(what)).edit });
        } catch (error) {
          drop();
          setProblem(words(error));
          return false;
        }
      },
      [change, dragged, drop],
    ),
    held: pipe.preview?.held,
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
