import type { ClearancePiece, ClearanceWorkup } from '../api/generated/schema';
import { token } from '../theme';
import { RoundBar } from './RoundBar';

type Triple = [number, number, number];

interface Props {
  air: ClearanceWorkup;
  radius: number;
}

/** Sleeves on the pipe where it has too little air: straw where tight, red where it fouls. */
export function AirTint({ air, radius }: Props) {
  return air.trace.map((piece, index) => {
    if (piece.state === 'clear') return null;
    const [from, to] = [between(air.trace[index - 1], piece), between(piece, air.trace[index + 1])];
    const around = radius + (piece.state === 'fouls' ? 2.5 : 1.5);
    return (
      <RoundBar key={`${piece.from} ${piece.to}`} from={from} to={to} radii={[around, around]} open>
        <meshStandardMaterial
          color={piece.state === 'fouls' ? '#d4482f' : token.straw}
          emissive={piece.state === 'fouls' ? token.fouls : '#7a5a10'}
          emissiveIntensity={0.35}
          roughness={0.6}
          side={2}
        />
      </RoundBar>
    );
  });
}

/** Half-way between two pieces' middles; a piece at an end keeps its own. */
function between(one: ClearancePiece | undefined, other: ClearancePiece | undefined): Triple {
  const [p, q] = [one ?? other, other ?? one];
  return [0, 1, 2].map((axis) => ((p?.at[axis] ?? 0) + (q?.at[axis] ?? 0)) / 2) as Triple;
}
