import { Edges, Html } from '@react-three/drei';
import { useMemo, useState } from 'react';
import { Quaternion, Vector3 } from 'three';
import type { KeepOut } from '../api/generated/schema';
import { token } from '../theme';
import { RoundBar } from './RoundBar';

const NORMAL = new Vector3(0, 0, 1);

/** Something in the way: a scribed outline with a faint body. */
export function KeepOutBody({ keepOut, named }: { keepOut: KeepOut; named: boolean }) {
  const [hovered, setHovered] = useState(false);
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
  const at: [number, number, number] =
    shape.shape === 'cylinder'
      ? [
          (shape.from[0] + shape.to[0]) / 2,
          (shape.from[1] + shape.to[1]) / 2,
          (shape.from[2] + shape.to[2]) / 2,
        ]
      : shape.centre;
  const sheet = useMemo(
    () =>
      shape.shape === 'plane' ? new Quaternion().setFromUnitVectors(NORMAL, facing(shape.normal)) : undefined,
    [shape],
  );
  return (
    <group
      onPointerOver={(event) => {
        event.stopPropagation();
        setHovered(true);
      }}
      onPointerOut={() => setHovered(false)}
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
      {(named || hovered) && (
        <Html position={at} center zIndexRange={[5, 0]} style={{ pointerEvents: 'none' }}>
          <div className='bay-name'>{keepOut.name}</div>
        </Html>
      )}
    </group>
  );
}

/** A direction as the server writes it: its components. */
function facing(said: Extract<KeepOut['shape'], { shape: 'plane' }>['normal']): Vector3 {
  return Array.isArray(said) ? new Vector3(...said) : NORMAL.clone();
}
