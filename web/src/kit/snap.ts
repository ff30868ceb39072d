import type { Edit, Snap, Target } from '../api/generated/schema';

let held: Snap | undefined;

function look(event: KeyboardEvent | PointerEvent) {
  held = event.shiftKey ? 'degrees' : event.altKey ? 'elbows' : event.ctrlKey ? 'true' : undefined;
}

for (const kind of ['keydown', 'keyup', 'pointermove', 'pointerdown', 'pointerup'] as const) {
  window.addEventListener(kind, look, { capture: true });
}
window.addEventListener('blur', () => {
  held = undefined;
});

/** The edit of a hand that drags a figure: as far as it goes. Keys held down say what it snaps to: Shift whole degrees, Alt elbow angles, Ctrl level and plumb. */
export const dragged = (run: number, target: Target): Edit => ({
  step: 'route',
  edit: 'reshape',
  run,
  target,
  reach: 'as_far_as_it_goes',
  ...(held ? { snap: held } : {}),
});
