import { useCallback, useEffect, useRef, useState } from 'react';
import { answered, ServerProblem, server, words } from '../api/client';
import type { Edit, JobState, Workup } from '../api/generated/schema';
import { useKeep, useWorkup } from '../api/hooks';

/** How an edit is tried, kept and taken back; shared by rod, bay and pad. */
export interface Drawing {
  /** What is drawn: the preview of a drag, else what is kept. */
  workup: Workup | undefined;
  /** Shows what an edit would lead to; keeps nothing. */
  propose: (edit: Edit) => void;
  /** Keeps an edit; false when it was refused and why is in `problem`. */
  keep: (edit: Edit) => Promise<boolean>;
  undo: () => void;
  redo: () => void;
  /** Forgets a preview. */
  drop: () => void;
  /** Why the last edit was refused. */
  problem: string | undefined;
  clearProblem: () => void;
}

/**
 * One run's workup with previews. At most one preview is under way; while it is, only the newest edit waits, so a
 * fast pointer never queues up.
 */
export function useDrawing(state: JobState, run: number | undefined): Drawing {
  const kept = useWorkup(state, run);
  const { mutateAsync } = useKeep(state.id);
  const [preview, setPreview] = useState<Workup>();
  const [problem, setProblem] = useState<string>();
  const busy = useRef(false);
  const waiting = useRef<Edit>(undefined);
  const stale = useRef(0);

  // biome-ignore lint/correctness/useExhaustiveDependencies: a new revision or run makes an old preview stale
  useEffect(() => {
    stale.current += 1;
    waiting.current = undefined;
    setPreview(undefined);
  }, [kept.data, run]);

  const propose = useCallback(
    (edit: Edit) => {
      waiting.current = edit;
      if (busy.current || run === undefined) return;
      busy.current = true;
      const mine = stale.current;
      void (async () => {
        while (waiting.current) {
          const next: Edit = waiting.current;
          waiting.current = undefined;
          try {
            const path = { id: state.id, run };
            const drawn = await answered(
              server.POST('/api/jobs/{id}/runs/{run}/preview', { params: { path }, body: next }),
            );
            if (mine === stale.current) {
              setPreview(drawn);
              setProblem(undefined);
            }
          } catch (error) {
            // A drag that cannot go further stops where it was, and says what holds it.
            if (mine === stale.current) setProblem(words(error));
          }
        }
        busy.current = false;
      })();
    },
    [state.id, run],
  );

  const change = useCallback(
    async (what: Parameters<typeof mutateAsync>[0]) => {
      waiting.current = undefined;
      try {
        await mutateAsync(what);
        setProblem(undefined);
        return true;
      } catch (error) {
        stale.current += 1;
        setPreview(undefined);
        const nothing = error instanceof ServerProblem && error.problem.status === 409;
        if (!nothing) setProblem(words(error));
        return false;
      }
    },
    [mutateAsync],
  );

  return {
    workup: preview ?? kept.data,
    propose,
    keep: useCallback((edit: Edit) => change({ edit }), [change]),
    undo: useCallback(() => void change({ step: 'undo' }), [change]),
    redo: useCallback(() => void change({ step: 'redo' }), [change]),
    drop: useCallback(() => {
      stale.current += 1;
      waiting.current = undefined;
      setPreview(undefined);
      setProblem(undefined);
    }, []),
    problem,
    clearProblem: useCallback(() => setProblem(undefined), []),
  };
}
