import type { AlongAnchor, BranchKind, Edit, JointKind, SupportKind, Workup } from '../api/generated/schema';
import { useBench } from '../kit/bench';
import type { Drawing } from '../kit/useDrawing';
import { placedAt } from '../rod/placedAt';

/** What a dragged kind of joint or support is carried as. */
export const CARRIED = 'application/x-nook-along';

/** A kind of joint or of support to put along the pipe, or of what is let into it. */
export type Along =
  | { what: 'joint'; kind: JointKind }
  | { what: 'support'; kind: SupportKind }
  | { what: 'branch'; kind: BranchKind };

/** What is let go over the pipe; nothing where it is something else. */
export function dropped(event: DragEvent | React.DragEvent): Along | undefined {
  const text = event.dataTransfer?.getData(CARRIED);
  return text ? (JSON.parse(text) as Along) : undefined;
}

/** Puts one along the pipe, its middle at a station of the tube, and selects it. */
export function useAddAlong(workup: Workup | undefined, drawing: Drawing) {
  const selectMade = useBench((bench) => bench.selectMade);
  return async (along: Along, station: number) => {
    if (!workup) return;
    const { run } = workup;
    const at = placedAt(workup, station);
    const made = await drawing.keep(edit(along, run, at));
    if (made) selectMade(made);
  };
}

function edit(along: Along, run: number, at: AlongAnchor): Edit {
  switch (along.what) {
    case 'joint':
      return { step: 'join', edit: 'add_joint', run, at, kind: along.kind };
    case 'support':
      return { step: 'join', edit: 'add_support', run, support: { at, kind: along.kind } };
    case 'branch':
      return { step: 'join', edit: 'add_branch', run, at, kind: along.kind };
  }
}
