import type { ThreeEvent } from '@react-three/fiber';
import { useEffect, useMemo } from 'react';
import type { PieceWorkup, Workup } from '../api/generated/schema';
import { type Selected, samePart, useBench } from '../kit/bench';
import { token } from '../theme';
import { pieceGeometry, seamGeometry } from './pieceGeometry';

interface Props {
  workup: Workup;
  /** Whether a click picks the sawn piece and not the straight or bend it is part of. */
  pickPieces: boolean;
}

/** The pipe as its pieces, pies as pies, with the seams between them. */
export function Pipe({ workup, pickPieces }: Props) {
  const { selected, select } = useBench();
  return (
    <group>
      {workup.pieces.map((piece, index) => {
        const { run } = workup;
        const part: Selected =
          piece.piece.kind === 'tube'
            ? { part: 'straight', run, straight: piece.piece.leg }
            : { part: 'bend', run, bend: piece.piece.bend };
        const mine: Selected = { part: 'piece', run, piece: piece.piece };
        const drawn = selected.part === 'bend' && piece.drawn.includes(selected.bend);
        const lit = samePart(selected, mine) || samePart(selected, part) || drawn;
        return (
          <Piece
            key={piece.name}
            piece={piece}
            radius={workup.od.mm / 2}
            lit={lit}
            seam={index > 0 && touches(workup.pieces[index - 1], piece)}
            onPick={(event) => {
              event.stopPropagation();
              select(pickPieces ? mine : part);
            }}
          />
        );
      })}
    </group>
  );
}

/** Whether a piece begins where the one before it ends: beyond a joint it does not. */
function touches(before: PieceWorkup | undefined, piece: PieceWorkup): boolean {
  const gap = before?.solids.at(-1)?.to.map((c, axis) => c - (piece.solids[0]?.from[axis] ?? c)) ?? [];
  return Math.hypot(...gap) < 0.01;
}

interface PieceProps {
  piece: PieceWorkup;
  radius: number;
  lit: boolean;
  seam: boolean;
  onPick: (event: ThreeEvent<MouseEvent>) => void;
}

function Piece({ piece, radius, lit, seam, onPick }: PieceProps) {
  const skin = useMemo(() => pieceGeometry(piece.solids, radius), [piece.solids, radius]);
  const line = useMemo(() => seamGeometry(piece.solids, radius), [piece.solids, radius]);
  useEffect(() => () => skin.dispose(), [skin]);
  useEffect(() => () => line.dispose(), [line]);
  if (piece.centre.mm <= 0) return null;
  return (
    <group>
      {/* biome-ignore lint/a11y/noStaticElementInteractions: the story rod offers the same by keyboard */}
      <mesh geometry={skin} onClick={onPick}>
        <meshStandardMaterial
          color={lit ? token.pipeLit : token.pipe}
          metalness={0.55}
          roughness={0.34}
          side={2}
          emissive={lit ? token.straw : token.unlit}
          emissiveIntensity={lit ? 0.18 : 0}
        />
      </mesh>
      {seam && (
        <lineLoop geometry={line}>
          <lineBasicMaterial color={token.pipeSeam} />
        </lineLoop>
      )}
    </group>
  );
}
