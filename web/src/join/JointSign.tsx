import type { ReactNode } from 'react';
import type { JointKind } from '../api/generated/schema';
import { token } from '../theme';

/** Half of the height of the tube in a sign, in its own units. */
const TUBE = 4;

const hose = (
  <>
    <rect x={4} y={3} width={22} height={14} fill={token.ink} />
    <rect x={7} y={2} width={3} height={16} fill={token.metalEdge} />
    <rect x={20} y={2} width={3} height={16} fill={token.metalEdge} />
  </>
);

const signs: Record<JointKind, ReactNode> = {
  coupler: hose,
  elbow: <path d='M4 3 L14 3 Q23 3 23 12 L23 19 L11 19 L11 17 L4 17 Z' fill={token.ink} />,
  reducer: <path d='M4 2 L26 5 L26 15 L4 18 Z' fill={token.ink} />,
  hump: (
    <>
      {hose}
      <rect x={11.5} y={0} width={7} height={20} rx={3} fill={token.ink} />
    </>
  ),
  v_band: <path d='M11 4 L15 0 L19 4 L19 16 L15 20 L11 16 Z' fill={token.dye} />,
  v_band_seal: (
    <>
      <path d='M11 4 L15 0 L19 4 L19 16 L15 20 L11 16 Z' fill={token.dye} />
      <rect x={14} y={4} width={2} height={12} fill={token.straw} />
    </>
  ),
  sleeve: (
    <>
      <rect x={6} y={2} width={18} height={16} fill='none' stroke={token.dye} strokeWidth={2} />
      <circle cx={10.5} cy={10} r={2} fill={token.straw} />
      <circle cx={19.5} cy={10} r={2} fill={token.straw} />
    </>
  ),
  rigid_clamp: (
    <>
      <rect x={6} y={1} width={18} height={18} fill={token.dye} />
      <circle cx={11} cy={10} r={2} fill={token.straw} />
      <circle cx={19} cy={10} r={2} fill={token.straw} />
    </>
  ),
  hose_end: (
    <>
      <path d='M2 6 L14 6 L14 14 L2 14 Z' fill={token.ink} />
      <rect x={14} y={4} width={5} height={12} fill={token.metalEdge} />
      <path d='M19 3 L26 3 L28 10 L26 17 L19 17 Z' fill={token.dye} />
    </>
  ),
  flange: (
    <>
      <rect x={10} y={0} width={4} height={20} fill={token.dye} />
      <rect x={16} y={0} width={4} height={20} fill={token.dye} />
    </>
  ),
  slip: (
    <>
      <rect x={5} y={4} width={14} height={12} fill='none' stroke={token.dye} strokeWidth={2} />
      <rect x={14} y={2} width={3} height={16} fill={token.metalEdge} />
    </>
  ),
  bellows: (
    <path
      d='M4 4 L7 16 L10 4 L13 16 L16 4 L19 16 L22 4 L25 16'
      fill='none'
      stroke={token.dye}
      strokeWidth={2}
    />
  ),
  open: <path d='M22 6 L30 10 L22 14 Z' fill={token.straw} stroke={token.ink} />,
  butt: <rect x={14} y={2} width={2} height={16} fill={token.seam} />,
};

/** A kind of joint as a small picture: the tube, and what is over it. */
export function JointSign({ kind }: { kind: JointKind }) {
  return (
    <svg width={30} height={20} aria-hidden>
      <rect x={0} y={10 - TUBE} width={30} height={2 * TUBE} fill={token.metal} stroke={token.metalEdge} />
      {signs[kind]}
    </svg>
  );
}
