import { useEffect, useMemo } from 'react';
import { BufferGeometry, Float32BufferAttribute, Vector3 } from 'three';
import type { BuiltWorkup, PartRef, SolidWorkup } from '../api/generated/schema';
import { samePart, useBench } from '../kit/bench';
import { token } from '../theme';
import { matcap } from './matcaps';
import { pieceGeometry, seamGeometry } from './pieceGeometry';
import { RoundBar } from './RoundBar';

interface Props {
  run: number;
  built: BuiltWorkup;
  radius: number;
}

/** The pipe as it was built, put on at A, and how far its end is from where the mouth at B is believed to be. */
export function BuiltPipe({ run, built, radius }: Props) {
  const { selected, press } = useBench();
  const end = built.pieces.at(-1)?.solids.at(-1)?.to;
  return (
    <group>
      {built.pieces.map(({ piece, name, solids }) => {
        const mine: PartRef = { part: 'piece', run, piece };
        const lit = samePart(selected, mine);
        return <Piece key={name} solids={solids} radius={radius} lit={lit} onPick={() => press(mine)} />;
      })}
      <MouthRing at={built.mouth} out={built.out} radius={radius} />
      {end && (
        <RoundBar from={end} to={built.mouth} radii={[1.2, 1.2]}>
          <meshBasicMaterial color={token.straw} depthTest={false} transparent />
        </RoundBar>
      )}
    </group>
  );
}

interface PieceProps {
  solids: SolidWorkup[];
  radius: number;
  lit: boolean;
  onPick: () => void;
}

function Piece({ solids, radius, lit, onPick }: PieceProps) {
  const skin = useMemo(() => pieceGeometry(solids, radius), [solids, radius]);
  const line = useMemo(() => seamGeometry(solids, radius), [solids, radius]);
  useEffect(() => () => skin.dispose(), [skin]);
  useEffect(() => () => line.dispose(), [line]);
  return (
    <group>
      {/* biome-ignore lint/a11y/noStaticElementInteractions: the story rod offers the same by keyboard */}
      <mesh
        geometry={skin}
        onClick={(event) => {
          event.stopPropagation();
          if (event.delta <= 3) onPick();
        }}
      >
        <meshMatcapMaterial matcap={matcap('bright')} color={lit ? token.pipeLit : token.sheet} side={2} />
      </mesh>
      <lineLoop geometry={line}>
        <lineBasicMaterial color={token.pipeSeam} />
      </lineLoop>
    </group>
  );
}

const STEPS = 48;

/** The rim of the mouth that it is to land on. */
function MouthRing({ at, out, radius }: { at: number[]; out: number[]; radius: number }) {
  const rim = useMemo(() => {
    const axis = new Vector3(...out).normalize();
    const up = new Vector3(0, 0, 1);
    const side = (Math.abs(axis.z) > 0.9 ? new Vector3(1, 0, 0) : up).cross(axis).normalize();
    const other = axis.clone().cross(side);
    const places = Array.from({ length: STEPS }, (_, step) => {
      const turn = (2 * Math.PI * step) / STEPS;
      return new Vector3(...at)
        .addScaledVector(side, radius * Math.cos(turn))
        .addScaledVector(other, radius * Math.sin(turn))
        .toArray();
    });
    return new BufferGeometry().setAttribute('position', new Float32BufferAttribute(places.flat(), 3));
  }, [at, out, radius]);
  useEffect(() => () => rim.dispose(), [rim]);
  return (
    <lineLoop geometry={rim}>
      <lineBasicMaterial color={token.straw} depthTest={false} transparent />
    </lineLoop>
  );
}
