import { useEffect, useMemo } from 'react';
import type { ClearanceWorkup } from '../api/generated/schema';
import { token } from '../theme';
import { matcap } from './matcaps';
import { sweep } from './sweep';

type Triple = [number, number, number];
type Short = 'tight' | 'fouls';

interface Props {
  air: ClearanceWorkup;
  radius: number;
}

const ROUND = 28;
/** How far the sleeves stand off the skin, mm: so that neither flickers through the other. */
const OFF: Record<Short, number> = { tight: 1.5, fouls: 2.5 };
const colours: Record<Short, string> = { tight: token.straw, fouls: token.foulsOnPipe };

/** Sleeves on the pipe where it has too little air: straw where tight, red where it fouls. */
export function AirTint({ air, radius }: Props) {
  const sleeves = useMemo(() => sleevesOf(air), [air]);
  return sleeves.map(({ state, line }) => (
    <Sleeve
      key={`${state} ${line[0]?.join()}`}
      line={line}
      radius={radius + OFF[state]}
      colour={colours[state]}
    />
  ));
}

function Sleeve({ line, radius, colour }: { line: Triple[]; radius: number; colour: string }) {
  const skin = useMemo(() => sweep(line, radius, ROUND), [line, radius]);
  useEffect(() => () => skin.dispose(), [skin]);
  return (
    <mesh geometry={skin} raycast={() => null}>
      <meshMatcapMaterial matcap={matcap('body')} color={colour} side={2} />
    </mesh>
  );
}

/** Stretches in one state, each along the middles of its pieces and half-way to those beside it. */
function sleevesOf({ trace }: ClearanceWorkup): { state: Short; line: Triple[] }[] {
  const all: { state: Short; line: Triple[] }[] = [];
  trace.forEach((piece, index) => {
    if (piece.state === 'clear') return;
    const between = (other: (typeof trace)[number] | undefined) =>
      piece.at.map((c, axis) => (c + (other?.at[axis] ?? c)) / 2) as Triple;
    const points = [piece.at as Triple, between(trace[index + 1])];
    const last = all.at(-1);
    if (last?.state === piece.state && trace[index - 1]?.state === piece.state) last.line.push(...points);
    else all.push({ state: piece.state, line: [between(trace[index - 1]), ...points] });
  });
  return all;
}
