import { useCallback, useEffect, useRef, useState } from 'react';
import { answered, ServerProblem, server, words } from '../api/client';
import type { BayWorkup, Drag, DualUnitText, Edit, JobState, Workup } from '../api/generated/schema';
import { useBay, useKeep, useWorkup } from '../api/hooks';

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

/**
 * Previews of one thing. At most one is under way; while it is, only the newest edit waits, so a fast pointer never
 * queues up.
 */
function usePreview<T, A>(
  ask: (change: A) => Promise<T>,
  onProblem: (problem: string | undefined) => void,
  /** A change of this makes a preview stale. */
  kept: unknown,
) {
  const [preview, setPreview] = useState<T>();
  const busy = useRef(false);
  const waiting = useRef<A>(undefined);
  const stale = useRef(0);
  const latest = useRef(ask);
  latest.current = ask;

  const drop = useCallback(() => {
    stale.current += 1;
    waiting.current = undefined;
    setPreview(undefined);
  }, []);

  // biome-ignore lint/correctness/useExhaustiveDependencies: a new revision or run makes an old preview stale
  useEffect(drop, [kept]);

  const propose = useCallback(
    (change: A) => {
      waiting.current = change;
      if (busy.current) return;
      busy.current = true;
      void (async () => {
        while (waiting.current) {
          const next: A = waiting.current;
          waiting.current = undefined;
          const mine = stale.current;
          try {
            const drawn = await latest.current(next);
            if (mine === stale.current) {
              setPreview(drawn);
              onProblem(undefined);
            }
          } catch (error) {
            // A drag that cannot go further stops where it was, and says what holds it.
            if (mine === stale.current) onProblem(words(error));
          }
        }
        busy.current = false;
      })();
    },
    [onProblem],
  );

  return { preview, propose, drop };
}

/** One run's workup and the bay, with previews. */
export function useDrawing(state: JobState, run: number | undefined): Drawing {
  const kept = useWorkup(state, run);
  const keptBay = useBay(state);
  const { mutateAsync } = useKeep(state.id);
  const [problem, setProblem] = useState<string>();
  const [held, setHeld] = useState<DualUnitText>();
  const dragged = useCallback(
    async (drag: Drag) => {
      const params = { path: { id: state.id, run: run ?? 0 } };
      return answered(server.POST('/api/jobs/{id}/runs/{run}/drag', { params, body: drag }));
    },
    [state.id, run],
  );
  const pipe = usePreview(
    async (change: Change) => {
      const params = { path: { id: state.id, run: run ?? 0 } };
      if ('edit' in change) {
        return answered(server.POST('/api/jobs/{id}/runs/{run}/preview', { params, body: change }));
      }
      const far = await dragged(change);
      setHeld(far.held ?? undefined);
      return far.workup;
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
    setHeld(undefined);
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
    workup: pipe.preview ?? kept.data,
    bay: bay.preview ?? keptBay.data,
    propose: pipe.propose,
    proposeBay: bay.propose,
    keep: useCallback(
      async (what: Change) => {
        setHeld(undefined);
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
    held,
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
