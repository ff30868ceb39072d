import { useEffect, useMemo } from 'react';
import { BufferGeometry, Float32BufferAttribute, Vector3 } from 'three';
import type { BuiltWorkup, SolidWorkup } from '../api/generated/schema';
import { token } from '../theme';
import { matcap } from './matcaps';
import { pieceGeometry, seamGeometry } from './pieceGeometry';
import { RoundBar } from './RoundBar';

interface Props {
  built: BuiltWorkup;
  radius: number;
}

/** The pipe as it was built, put on at A, and how far its end is from where the mouth at B is believed to be. */
export function BuiltPipe({ built, radius }: Props) {
  const end = built.pieces.at(-1)?.solids.at(-1)?.to;
  return (
    <group>
      {built.pieces.map((piece) => (
        <Piece key={piece.name} solids={piece.solids} radius={radius} />
      ))}
      <MouthRing at={built.mouth} out={built.out} radius={radius} />
      {end && (
        <RoundBar from={end} to={built.mouth} radii={[1.2, 1.2]}>
          <meshBasicMaterial color={token.straw} depthTest={false} transparent />
        </RoundBar>
      )}
    </group>
  );
}

function Piece({ solids, radius }: { solids: SolidWorkup[]; radius: number }) {
  const skin = useMemo(() => pieceGeometry(solids, radius), [solids, radius]);
  const line = useMemo(() => seamGeometry(solids, radius), [solids, radius]);
  useEffect(() => () => skin.dispose(), [skin]);
  useEffect(() => () => line.dispose(), [line]);
  return (
    <group>
      <mesh geometry={skin}>
        <meshMatcapMaterial matcap={matcap('bright')} color={token.sheet} side={2} />
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
