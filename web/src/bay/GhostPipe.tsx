import { useEffect, useMemo } from 'react';
import type { PieceWorkup } from '../api/generated/schema';
import { type Shown, shownColours } from '../kit/useShown';
import { token } from '../theme';
import { matcap } from './matcaps';
import { pieceGeometry } from './pieceGeometry';

/** A way kept beside the one taken, in its own colour, as thin as a drawing. */
export function GhostPipe({ way }: { way: Shown }) {
  const { workup, colour } = way;
  return (
    <group>
      {workup.pieces.map((piece) => (
        <Ghost
          key={piece.name}
          piece={piece}
          radius={workup.od.mm / 2 - 1}
          colour={shownColours[colour] ?? token.sheet}
        />
      ))}
    </group>
  );
}

function Ghost({ piece, radius, colour }: { piece: PieceWorkup; radius: number; colour: string }) {
  const skin = useMemo(() => pieceGeometry(piece.solids, radius), [piece.solids, radius]);
  useEffect(() => () => skin.dispose(), [skin]);
  if (piece.centre.mm <= 0) return null;
  return (
    <mesh geometry={skin}>
      <meshMatcapMaterial
        matcap={matcap('body')}
        color={colour}
        transparent
        opacity={0.55}
        side={2}
        depthWrite={false}
      />
    </mesh>
  );
}
