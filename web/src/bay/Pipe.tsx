import type { ThreeEvent } from '@react-three/fiber';
import { useEffect, useMemo } from 'react';
import type { BayWorkup, PartRef, PieceWorkup, SolidWorkup, Workup } from '../api/generated/schema';
import { samePart, useBench } from '../kit/bench';
import { token } from '../theme';
import { MovingSection } from './MovingSection';
import { matcap } from './matcaps';
import { pieceGeometry, seamGeometry } from './pieceGeometry';

const PIPE = { blocks: true, pipe: true };

interface Props {
  workup: Workup;
  bay: BayWorkup | undefined;
  /** Whether a click picks the sawn piece and not the straight or bend it is part of. */
  pickPieces: boolean;
}

/** The pipe as its pieces, pies as pies, with the seams between them. */
export function Pipe({ workup, bay, pickPieces }: Props) {
  const { selected, press } = useBench();
  const pieces = useMemo(
    () => workup.pieces.map((piece) => ({ piece, parts: stretches(piece) })),
    [workup.pieces],
  );
  // Beyond a gap the next section begins.
  const sections = useMemo(() => {
    let section = 0;
    return workup.pieces.map((piece, index) => {
      if (index > 0 && !touches(workup.pieces[index - 1], piece)) section += 1;
      return section;
    });
  }, [workup.pieces]);
  return (
    <group userData={PIPE}>
      {pieces.map(({ piece, parts }, index) => {
        const mine: PartRef = { part: 'piece', run: workup.run, piece: piece.piece };
        if (piece.centre.mm <= 0) return null;
        const section = sections[index] ?? 0;
        // A piece is drawn part by part: one that is bent is of several.
        const drawn = parts.map(({ part, solids }, place) => (
          <Stretch
            key={`${piece.name} ${JSON.stringify(part)}`}
            solids={solids}
            radius={workup.od.mm / 2}
            rubber={workup.hose != null}
            lit={samePart(selected, mine) || samePart(selected, part)}
            seam={place === 0 && index > 0 && touches(workup.pieces[index - 1], piece)}
            onPick={(event) => {
              event.stopPropagation();
              if (event.delta <= 3) press(pickPieces ? mine : part);
            }}
          />
        ));
        return (
          <MovingSection key={piece.name} bay={bay} section={workup.sections[section]} index={section}>
            {drawn}
          </MovingSection>
        );
      })}
    </group>
  );
}

/** What of a piece belongs to one part after the other. */
function stretches(piece: PieceWorkup): { part: PartRef; solids: SolidWorkup[] }[] {
  const all: { part: PartRef; solids: SolidWorkup[] }[] = [];
  for (const solid of piece.solids) {
    const last = all.at(-1);
    if (last && samePart(last.part, solid.part)) last.solids.push(solid);
    else all.push({ part: solid.part, solids: [solid] });
  }
  return all;
}

/** Whether a piece begins where the one before it ends: beyond a joint it does not. */
function touches(before: PieceWorkup | undefined, piece: PieceWorkup): boolean {
  const gap = before?.solids.at(-1)?.to.map((c, axis) => c - (piece.solids[0]?.from[axis] ?? c)) ?? [];
  return Math.hypot(...gap) < 0.01;
}

interface StretchProps {
  solids: SolidWorkup[];
  radius: number;
  rubber: boolean;
  lit: boolean;
  seam: boolean;
  onPick: (event: ThreeEvent<MouseEvent>) => void;
}

function Stretch({ solids, radius, rubber, lit, seam, onPick }: StretchProps) {
  const skin = useMemo(() => pieceGeometry(solids, radius), [solids, radius]);
  const line = useMemo(() => seamGeometry(solids, radius), [solids, radius]);
  useEffect(() => () => skin.dispose(), [skin]);
  useEffect(() => () => line.dispose(), [line]);
  return (
    <group>
      {/* biome-ignore lint/a11y/noStaticElementInteractions: the story rod offers the same by keyboard */}
      <mesh geometry={skin} onClick={onPick}>
        <meshMatcapMaterial
          matcap={matcap(rubber && !lit ? 'rubber' : 'bright')}
          color={lit ? token.pipeLit : token.sheet}
          side={2}
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
