import type { KeyboardEvent } from 'react';
import type { Severity } from '../api/generated/schema';
import { severityLook } from '../kit/Findings';
import { token } from '../theme';
import type { RodScale } from './scale';
import type { useDrag } from './useDrag';

/** Where the stick's edges lie, in pixels from the top of the drawing. */
export const TOP = 44;
export const BOTTOM = 80;
/** How far a hose stands out over the stick, in pixels. */
export const SLEEVE = 6;

type Handlers = ReturnType<ReturnType<typeof useDrag>>;

/** What every part of the rod is given. */
export interface PartProps {
  index: number;
  scale: RodScale;
  selected: boolean;
  severity: Severity | undefined;
  handlers: Handlers;
  onSelect: () => void;
}

/** Enter and space press a part, as they press a button. */
export const onEnter = (act: () => void) => (event: KeyboardEvent) => {
  if (event.key === 'Enter' || event.key === ' ') {
    event.preventDefault();
    act();
  }
};

/** A finding's shape under the part it is about. */
export function Mark({ x, severity }: { x: number; severity: PartProps['severity'] }) {
  if (!severity) return null;
  const { shape, edge } = severityLook(severity);
  return (
    <text
      x={x}
      y={BOTTOM + 28}
      textAnchor='middle'
      fontSize={13}
      fill={edge}
      stroke={token.ink}
      strokeWidth={0.4}
    >
      {shape}
    </text>
  );
}

/** The frame round the part that is looked at; `beyond` the stick's edges by some pixels. */
export function Frame({ x, width, beyond, on }: { x: number; width: number; beyond: number; on: boolean }) {
  if (!on) return null;
  return (
    <rect
      x={x}
      y={TOP - beyond}
      width={width}
      height={BOTTOM - TOP + 2 * beyond}
      fill='none'
      stroke={token.straw}
      strokeWidth={3}
    />
  );
}

/** A hose over the stick. */
export function Sleeve({ x, width, fill }: { x: number; width: number; fill: string }) {
  return (
    <rect
      x={x}
      y={TOP - SLEEVE}
      width={width}
      height={BOTTOM - TOP + 2 * SLEEVE}
      fill={fill}
      opacity={0.92}
    />
  );
}
