import type { ReactNode } from 'react';
import type { BranchKind } from '../api/generated/schema';
import { token } from '../theme';

const stub = (width: number, height: number) => (
  <rect x={15 - width / 2} y={10 - height} width={width} height={height} fill={token.dye} />
);

const signs: Record<BranchKind, ReactNode> = {
  temperature_sensor: (
    <>
      {stub(8, 6)}
      <path d='M15 10 L15 16' stroke={token.ink} strokeWidth={2} />
      <circle cx={15} cy={16} r={1.6} fill={token.ink} />
    </>
  ),
  pressure_sensor: (
    <>
      {stub(8, 6)}
      <path d='M11 15 A4 4 0 0 1 19 15' fill='none' stroke={token.ink} strokeWidth={1.5} />
      <path d='M15 15 L17 12' stroke={token.ink} strokeWidth={1.5} />
    </>
  ),
  blow_off: (
    <>
      {stub(12, 8)}
      <path d='M9 1 L6 -1 M21 1 L24 -1' stroke={token.ink} strokeWidth={1.5} />
    </>
  ),
  recirculation: (
    <>
      {stub(9, 9)}
      <path d='M15 4 L15 15 M12 12 L15 15 L18 12' fill='none' stroke={token.straw} strokeWidth={1.5} />
    </>
  ),
  breather: <path d='M12 10 L12 4 L6 1 M18 10 L18 4 L12 1' fill='none' stroke={token.dye} strokeWidth={2} />,
  bleed: (
    <>
      {stub(6, 4)}
      <circle cx={15} cy={3} r={2} fill='none' stroke={token.ink} strokeWidth={1.2} />
    </>
  ),
  drain: (
    <>
      <rect x={11.5} y={17} width={7} height={4} fill={token.dye} />
      <circle cx={15} cy={13} r={1.6} fill={token.ink} />
    </>
  ),
  filler: (
    <>
      {stub(11, 8)}
      <rect x={7.5} y={0} width={15} height={3} fill={token.ink} />
    </>
  ),
};

/** A kind of bung or stub as a small picture: the tube, and what is let into it. */
export function BranchSign({ kind }: { kind: BranchKind }) {
  return (
    <svg width={30} height={22} viewBox='0 -2 30 24' aria-hidden>
      <rect x={0} y={10} width={30} height={8} fill={token.metal} stroke={token.metalEdge} />
      {signs[kind]}
    </svg>
  );
}
