import type { CutRow } from '../api/generated/schema';
import { degrees, figure, type Unit } from '../kit/bench';

/** How the tube is turned before a cut. */
export function turnWords({ turn }: CutRow, unit: Unit): string {
  switch (turn.turn) {
    case 'as_it_lies':
      return 'as it lies';
    case 'first':
      return 'line up';
    case 'stay':
      return 'stay';
    case 'half_turn':
      return 'half turn';
    case 'clock':
      return `${degrees(turn.degrees)}\u00a0(${figure(turn.girth, unit)}) ${turn.way}`;
  }
}
