import type { ComponentChange, ComponentWorkup, Edit } from '../api/generated/schema';
import type { Drawing } from '../kit/useDrawing';

/** Changes one thing about a component. */
export const changing =
  (drawing: Drawing, { component }: ComponentWorkup) =>
  (to: ComponentChange) =>
    drawing.keep({ step: 'place', edit: 'change_component', component, to });

/** Sets one of its freedoms. */
export const setting = (component: number, freedom: number, to: number): Edit => ({
  step: 'place',
  edit: 'set_freedom',
  component,
  freedom,
  to,
});
