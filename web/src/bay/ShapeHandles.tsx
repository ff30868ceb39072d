import { useRef } from 'react';
import type { Edit, Workup } from '../api/generated/schema';
import { useBench } from '../kit/bench';
import { dragged } from '../kit/snap';
import type { Drawing } from '../kit/useDrawing';
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
    const at = vertexOf(workup.bends.findIndex((one) => one.bend === selected.bend));
    if (!at) return null;
    const change = (to: Triple) => dragged(workup.run, { figure: 'vertex', bend: selected.bend, at: to });
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
  const leg = workup.straights.findIndex((one) => one.straight === selected.straight);
  const [from, to] = [vertexOf(leg - 1), vertexOf(leg)];
  if (!from || !to) return null;
  const middle = from.map((c, axis) => (c + (to[axis] ?? c)) / 2) as Triple;
  const change = (now: Triple): Edit => {
    const start = begun.current ?? middle;
    const by = now.map((c, axis) => c - (start[axis] ?? c)) as Triple;
    return dragged(workup.run, { figure: 'leg', leg: selected.straight, by });
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
