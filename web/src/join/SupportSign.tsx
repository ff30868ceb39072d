import type { ReactNode } from 'react';
import type { SupportKind } from '../api/generated/schema';
import { token } from '../theme';

/** The ground a foot stands on, in a sign's own units. */
const ground = <path d='M8 19 L22 19' stroke={token.ink} strokeWidth={2} />;

const signs: Record<SupportKind, ReactNode> = {
  clamps: (
    <>
      <rect x={9} y={2} width={4} height={13} fill={token.dye} />
      <rect x={17} y={2} width={4} height={13} fill={token.dye} />
      <path d='M11 15 L8 19 M19 15 L22 19' stroke={token.ink} strokeWidth={2} />
    </>
  ),
  tab: (
    <>
      <path d='M11 12 L19 12 L17 18 L13 18 Z' fill={token.dye} />
      {ground}
    </>
  ),
  grommet: (
    <>
      <path d='M15 0 L15 3 M15 15 L15 20' stroke={token.ink} strokeWidth={3} />
      <rect x={12} y={3} width={6} height={12} rx={3} fill='none' stroke={token.dye} strokeWidth={2} />
    </>
  ),
  hanger: (
    <>
      <path d='M15 13 L15 17 L21 17' fill='none' stroke={token.ink} strokeWidth={2} />
      <circle cx={22} cy={17} r={2.5} fill={token.dye} />
    </>
  ),
};

/** A kind of support as a small picture: the tube, and what holds it. */
export function SupportSign({ kind }: { kind: SupportKind }) {
  return (
    <svg width={30} height={20} aria-hidden>
      <rect x={0} y={5} width={30} height={7} fill={token.metal} stroke={token.metalEdge} />
      {signs[kind]}
    </svg>
  );
}
