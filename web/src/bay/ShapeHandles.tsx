import { useRef } from 'react';
import type { Workup } from '../api/generated/schema';
import { useBench } from '../kit/bench';
import { snapNow } from '../kit/snap';
import type { Change, Drawing } from '../kit/useDrawing';
import { Handle } from './Handle';

type Triple = [number, number, number];
const NO_PLANES = [[], [], []] as const;

/** Arrows on the selected bend's vertex or the selected leg between two bends; dragging them shapes the way. */
export function ShapeHandles({ workup, drawing }: { workup: Workup; drawing: Drawing }) {
  const selected = useBench((bench) => bench.selected);
  // Where a leg's middle was when its drag began: previews must not move the ground under it.
  const begun = useRef<Triple>(undefined);
  const vertexOf = (bend: number) => workup.bends[bend]?.vertex.map((c) => c.mm) as Triple | undefined;
  if (selected.part === 'bend') {
    const at = vertexOf(selected.bend);
    if (!at) return null;
    const change = (to: Triple): Change => ({
      target: { figure: 'vertex', bend: selected.bend, at: to },
      snap: snapNow() ?? null,
    });
    return (
      <Handle
        key={`bend ${selected.bend}`}
        at={at}
        planes={NO_PLANES}
        onMove={(to) => drawing.propose(change(to))}
        onDone={(to) => void drawing.keep(change(to))}
      />
    );
  }
  if (selected.part !== 'straight') return null;
  const [from, to] = [vertexOf(selected.straight - 1), vertexOf(selected.straight)];
  if (!from || !to) return null;
  const middle = from.map((c, axis) => (c + (to[axis] ?? c)) / 2) as Triple;
  const change = (now: Triple): Change => {
    const start = begun.current ?? middle;
    const by = now.map((c, axis) => c - (start[axis] ?? c)) as Triple;
    return { target: { figure: 'leg', leg: selected.straight, by }, snap: snapNow() ?? null };
  };
  return (
    <Handle
      key={`leg ${selected.straight}`}
      at={middle}
      planes={NO_PLANES}
      onMove={(now) => {
        begun.current ??= middle;
        drawing.propose(change(now));
      }}
      onDone={(now) => {
        const last = change(now);
        begun.current = undefined;
        void drawing.keep(last);
      }}
    />
  );
}
