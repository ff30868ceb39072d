import type { Snap } from '../api/generated/schema';

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

/** What the keys held down say a drag snaps to: Shift whole degrees, Alt elbow angles, Ctrl level and plumb. */
export const snapNow = (): Snap | undefined => held;
