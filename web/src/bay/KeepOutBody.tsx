import { Edges } from '@react-three/drei';
import { useMemo } from 'react';
import { Quaternion, Vector3 } from 'three';
import type { KeepOut } from '../api/generated/schema';
import { token } from '../theme';
import { RoundBar } from './RoundBar';

const NORMAL = new Vector3(0, 0, 1);

interface Props {
  keepOut: KeepOut;
  hovered: boolean;
  onHover: (id: number | undefined) => void;
}

/** Where a keep-out's name stands. */
export function middleOf({ shape }: KeepOut): [number, number, number] {
  if (shape.shape !== 'cylinder') return shape.centre;
  const [[ax, ay, az], [bx, by, bz]] = [shape.from, shape.to];
  return [(ax + bx) / 2, (ay + by) / 2, (az + bz) / 2];
}

/** Something in the way: a scribed outline with a faint body. */
export function KeepOutBody({ keepOut, hovered, onHover }: Props) {
  const { shape } = keepOut;
  const hot = keepOut.kind === 'hot' || keepOut.kind === 'live_terminal';
  const skin = (
    <>
      <meshBasicMaterial
        color={hovered ? '#8f86e0' : '#5d54b8'}
        transparent
        opacity={hovered ? 0.3 : 0.13}
        depthWrite={false}
        side={2}
      />
      <Edges color={hot ? '#f0b9a8' : token.scribe} threshold={20} />
    </>
  );
  const sheet = useMemo(
    () =>
      shape.shape === 'plane' ? new Quaternion().setFromUnitVectors(NORMAL, facing(shape.normal)) : undefined,
    [shape],
  );
  return (
    <group
      onPointerOver={(event) => {
        event.stopPropagation();
        onHover(keepOut.id);
      }}
      onPointerOut={() => onHover(undefined)}
    >
      {shape.shape === 'box' && (
        <mesh position={shape.centre} rotation={[0, 0, (shape.heading * Math.PI) / 180]}>
          <boxGeometry args={shape.size} />
          {skin}
        </mesh>
      )}
      {shape.shape === 'cylinder' && (
        <RoundBar from={shape.from} to={shape.to} radii={[shape.diameter / 2, shape.diameter / 2]}>
          {skin}
        </RoundBar>
      )}
      {shape.shape === 'plane' && sheet && (
        <mesh position={shape.centre} quaternion={sheet}>
          <planeGeometry args={shape.size} />
          <meshBasicMaterial color='#5d54b8' transparent opacity={0.05} depthWrite={false} side={2} />
          <Edges color={token.scribe} />
        </mesh>
      )}
    </group>
  );
}

/** A direction as the server writes it: its components. */
function facing(said: Extract<KeepOut['shape'], { shape: 'plane' }>['normal']): Vector3 {
  return Array.isArray(said) ? new Vector3(...said) : NORMAL.clone();
}
