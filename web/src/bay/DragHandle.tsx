import { useMemo } from 'react';
import type { BayWorkup } from '../api/generated/schema';
import { useBench } from '../kit/bench';
import type { Drawing } from '../kit/useDrawing';
import { Handle } from './Handle';

type Triple = [number, number, number];

/** Arrows on what is selected, where it is not held by readings. */
export function DragHandle({
  bay,
  drawing,
  measuring,
}: {
  bay: BayWorkup;
  drawing: Drawing;
  measuring: boolean;
}) {
  const selected = useBench((bench) => bench.selected);
  const planes = useMemo(
    () => [0, 1, 2].map((axis) => bay.datums.map((datum) => datum.at[axis]?.mm ?? 0)),
    [bay.datums],
  ) as unknown as readonly [number[], number[], number[]];
  const { workup } = drawing;
  const end = selected.part === 'end' ? workup?.ends.find((one) => one.end === selected.end) : undefined;
  if (workup && end) {
    const port = bay.ports.find((one) => one.port.run === workup.run && one.port.end === end.end);
    const carrier = bay.components.find((one) => one.component === port?.component);
    if (port?.found.place === 'readings' || carrier?.moved) return null;
    const move = (at: Triple) =>
      ({ step: 'measure', edit: 'move_port', run: workup.run, end: end.end, at }) as const;
    return (
      <Handle
        key={`${workup.run} ${end.end}`}
        at={end.at.map((c) => c.mm) as Triple}
        planes={planes}
        onMove={(at) => drawing.propose(move(at))}
        onDone={(at) => void drawing.keep(move(at))}
      />
    );
  }
  const wholes = measuring ? bay.components : [];
  const whole = wholes.find(
    (one) =>
      (selected.part === 'component' && one.component === selected.component) ||
      (selected.part === 'keep_out' && one.body.includes(selected.keep_out)),
  );
  const slides = whole?.freedoms.some((freedom) => freedom.is.moves === 'slide');
  if (whole && (selected.part === 'component' || slides || whole.moved)) {
    if (!whole.at || !slides) return null;
    const move = (to: Triple) =>
      ({ step: 'place', edit: 'move_component', component: whole.component, to }) as const;
    return (
      <Handle
        key={`component ${whole.component}`}
        at={whole.at.map((c) => c.mm) as Triple}
        planes={planes}
        onMove={(to) => drawing.propose(move(to))}
        onDone={(to) => void drawing.keep(move(to))}
      />
    );
  }
  const keepOut =
    measuring && selected.part === 'keep_out'
      ? bay.keep_outs.find((one) => one.keep_out === selected.keep_out)
      : undefined;
  if (!keepOut || keepOut.found.place === 'readings' || keepOut.shape.shape === 'scan') return null;
  const move = (at: Triple) =>
    ({ step: 'measure', edit: 'move_keep_out', keep_out: keepOut.keep_out, at }) as const;
  return (
    <Handle
      key={keepOut.keep_out}
      at={keepOut.at.map((c) => c.mm) as Triple}
      planes={planes}
      onMove={(at) => drawing.propose(move(at))}
      onDone={(at) => void drawing.keep(move(at))}
    />
  );
}
