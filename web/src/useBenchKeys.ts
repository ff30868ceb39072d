import { type Step, steps } from './head/steps';
import { type Selected, same, samePart, useBench } from './kit/bench';
import type { Drawing } from './kit/useDrawing';
import { useKeys } from './kit/useKeys';
import { walkOrder } from './rod/parts';

interface Hands {
  drawing: Drawing;
  selected: Selected;
  select: (selected: Selected) => void;
  onStep: (step: Step) => void;
  onRack: () => void;
  onHelp: () => void;
}

/** The bench's keys: walk the rod, nudge, turn, step, find, undo. */
export function useBenchKeys({ drawing, selected, select, onStep, onRack, onHelp }: Hands) {
  const { workup } = drawing;
  const { sight, show } = useBench();

  function walk(by: number) {
    if (!workup) return false;
    const parts = walkOrder(workup);
    const now = parts.findIndex((part) => samePart(part, selected));
    const next =
      parts[now < 0 ? (by > 0 ? 0 : parts.length - 1) : Math.min(parts.length - 1, Math.max(0, now + by))];
    if (next) select(next);
    return true;
  }

  function nudge(by: number) {
    if (!workup || selected.part !== 'straight') return false;
    const straight = workup.straights.find((one) => one.straight === selected.straight);
    if (!straight) return false;
    const length = Math.max(0, straight.length.mm + by);
    const target = { figure: 'straight' as const, straight: selected.straight, length };
    void drawing.keep({ step: 'route', edit: 'reshape', run: workup.run, target });
    return true;
  }

  function turn(by: number) {
    if (!workup || selected.part !== 'bend') return false;
    const bend = workup.bends.find((one) => one.bend === selected.bend);
    if (!bend) return false;
    const angle = Math.min(175, Math.max(0.5, bend.angle + by));
    void drawing.keep({
      step: 'route',
      edit: 'reshape',
      run: workup.run,
      target: { figure: 'angle', bend: selected.bend, angle },
    });
    return true;
  }

  function nextFinding() {
    const findings = workup?.findings ?? [];
    // Two findings may be about one part: what they are against tells them apart.
    const shown = findings.findIndex(
      ({ part, against }) => sight && samePart(part, sight.part) && same(against ?? undefined, sight.against),
    );
    const now = shown >= 0 ? shown : findings.findIndex(({ part }) => samePart(part, selected));
    const next = findings[(now + 1) % Math.max(1, findings.length)];
    if (next) show(next);
    return true;
  }

  useKeys((event) => {
    const side = event.key === 'ArrowRight' ? 1 : event.key === 'ArrowLeft' ? -1 : 0;
    if (side !== 0) return event.shiftKey || event.altKey ? nudge(side * (event.altKey ? 5 : 1)) : walk(side);
    switch (event.key) {
      case '[':
        return turn(-1);
      case ']':
        return turn(1);
      case 'n':
        return nextFinding();
      case 'u':
        drawing.undo();
        return true;
      case 'U':
        drawing.redo();
        return true;
      case 'Escape':
        drawing.drop();
        select({ part: 'nothing' });
        return true;
      case '0':
        onRack();
        return true;
      case '?':
        onHelp();
        return true;
    }
    const step = steps[Number(event.key) - 1];
    if (step) onStep(step);
    return step !== undefined;
  });
}
