import { type PointerEvent, useRef } from 'react';
import type { Edit } from '../api/generated/schema';
import type { Drawing } from '../kit/useDrawing';

/** Below this many pixels a press is a click. */
const CLICK = 3;

interface Drag {
  /** The change that a move of so many pixels makes, or nothing where it changes nothing. */
  change: (dx: number, dy: number) => Edit | undefined;
  onClick: () => void;
}

/** Dragging a part of the rod: a move previews, letting go keeps, Escape drops. */
export function useDrag(drawing: Drawing) {
  const drag = useRef<{
    x: number;
    y: number;
    moved: boolean;
    last: Edit | undefined;
    /** As it was when the drag began: previews must not move the ground under it. */
    change: Drag['change'];
  }>(undefined);

  return ({ change, onClick }: Drag) => ({
    onPointerDown: (event: PointerEvent<SVGElement>) => {
      if (event.button !== 0) return;
      event.currentTarget.setPointerCapture(event.pointerId);
      drag.current = { x: event.clientX, y: event.clientY, moved: false, last: undefined, change };
    },
    onPointerMove: (event: PointerEvent<SVGElement>) => {
      const now = drag.current;
      if (!now) return;
      const [dx, dy] = [event.clientX - now.x, event.clientY - now.y];
      if (!now.moved && Math.hypot(dx, dy) < CLICK) return;
      if (!now.moved) onClick();
      now.moved = true;
      now.last = now.change(dx, dy);
      if (now.last) drawing.propose(now.last);
    },
    onPointerUp: () => {
      const now = drag.current;
      drag.current = undefined;
      if (!now) return;
      if (!now.moved) onClick();
      else if (now.last) void drawing.keep(now.last);
      else drawing.drop();
    },
    onPointerCancel: () => {
      drag.current = undefined;
      drawing.drop();
    },
  });
}
