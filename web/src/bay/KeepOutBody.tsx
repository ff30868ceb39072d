import type { ThreeEvent } from '@react-three/fiber';
import { useMemo } from 'react';
import {
  BufferAttribute,
  BufferGeometry,
  type Object3D,
  Quaternion,
  ShapeUtils,
  Vector2,
  Vector3,
} from 'three';
import type { KeepOutWorkup } from '../api/generated/schema';
import { token } from '../theme';
import type { LitLook } from './lit';
import { matcap } from './matcaps';
import { boxPlace, normalOf, planePlace } from './placing';
import { RoundBar } from './RoundBar';
import { ScanBody } from './ScanBody';

const NORMAL = new Vector3(0, 0, 1);

interface Props {
  keepOut: KeepOutWorkup;
  /** How it matters; what does not has no body, but can still be pointed at. */
  look: LitLook | undefined;
  hovered: boolean;
  onHover: (id: number | undefined) => void;
  onPick: () => void;
}

const colours: Record<LitLook, string> = {
  lit: token.straw,
  fouls: token.foulsBody,
  tight: token.tightBody,
  near: token.nearBody,
};

/** The room a thing takes: seen where it matters, and always there to be pointed at. */
export function KeepOutBody({ keepOut, look, hovered, onHover, onPick }: Props) {
  const seen = look ?? (hovered ? 'near' : undefined);
  const flat = keepOut.shape.shape === 'plane' || keepOut.shape.shape === 'sheet';
  const missing = keepOut.standing === 'missing';
  const opacity = missing ? 0.12 : flat ? 0.16 : 0.62;
  return (
    // biome-ignore lint/a11y/noStaticElementInteractions: the list on the bench pad offers the same by keyboard
    <group
      userData={seen && !flat ? { blocks: true } : {}}
      onPointerOver={(event) => {
        if (meetsPipe(event)) return;
        event.stopPropagation();
        onHover(keepOut.keep_out);
      }}
      onPointerOut={() => onHover(undefined)}
      onClick={(event: ThreeEvent<MouseEvent>) => {
        // A pipe behind a box is picked before the box; a drag that turns the view picks nothing.
        if (event.delta > 3 || meetsPipe(event)) return;
        event.stopPropagation();
        onPick();
      }}
    >
      <Room keepOut={keepOut} lit={seen !== undefined} ghost={missing}>
        {seen ? (
          <meshMatcapMaterial
            matcap={matcap('body')}
            color={colours[seen]}
            transparent
            opacity={opacity}
            // A body hides what is behind it, so that near and far can be told; what is flat or not there does not.
            depthWrite={!flat && !missing}
            side={flat ? 2 : 0}
            polygonOffset
            polygonOffsetFactor={1}
            polygonOffsetUnits={1}
          />
        ) : (
          <meshBasicMaterial visible={false} />
        )}
      </Room>
    </group>
  );
}

/** Whether a pipe lies on the line of sight, in front or behind. */
function meetsPipe({ intersections }: ThreeEvent<MouseEvent>): boolean {
  return intersections.some(({ object }) => {
    for (let part: Object3D | null = object; part; part = part.parent) {
      if (part.userData.pipe) return true;
    }
    return false;
  });
}

interface RoomProps {
  keepOut: KeepOutWorkup;
  lit: boolean;
  ghost: boolean;
  children: React.ReactNode;
}

function Room({ keepOut, lit, ghost, children }: RoomProps) {
  const { shape } = keepOut;
  switch (shape.shape) {
    case 'box':
      return (
        <group matrix={boxPlace(shape)} matrixAutoUpdate={false}>
          <mesh>
            <boxGeometry args={shape.size} />
            {children}
          </mesh>
        </group>
      );
    case 'cylinder':
      return (
        <RoundBar from={shape.from} to={shape.to} radii={[shape.diameter / 2, shape.diameter / 2]}>
          {children}
        </RoundBar>
      );
    case 'sphere':
      return (
        <mesh position={shape.centre}>
          <sphereGeometry args={[shape.diameter / 2, 24, 14]} />
          {children}
        </mesh>
      );
    case 'line':
      return <LineBody points={shape.points} radius={shape.diameter / 2} skin={children} />;
    case 'plane':
      return (
        <group matrix={planePlace(shape)} matrixAutoUpdate={false}>
          <mesh>
            <planeGeometry args={shape.size} />
            {children}
          </mesh>
        </group>
      );
    case 'sheet':
      return <SheetBody corners={shape.corners}>{children}</SheetBody>;
    case 'scan':
      return <ScanBody keepOut={keepOut} lit={lit} ghost={ghost} />;
  }
}

type Triple = [number, number, number];

function LineBody({ points, radius, skin }: { points: Triple[]; radius: number; skin: React.ReactNode }) {
  return (
    <group>
      {points.slice(1).map((to, index) => (
        <RoundBar key={to.join()} from={points[index] as Triple} to={to} radii={[radius, radius]} open>
          {skin}
        </RoundBar>
      ))}
      {points.slice(1, -1).map((point) => (
        <mesh key={point.join()} position={point}>
          <sphereGeometry args={[radius, 14, 10]} />
          {skin}
        </mesh>
      ))}
    </group>
  );
}

function SheetBody({ corners, children }: { corners: Triple[]; children: React.ReactNode }) {
  const geometry = useMemo(() => outline(corners), [corners]);
  return <mesh geometry={geometry}>{children}</mesh>;
}

/** A flat outline as triangles, in the plane of its first corner and its two longest sides. */
function outline(corners: Triple[]): BufferGeometry {
  const points = corners.map((corner) => new Vector3(...corner));
  const level = new Quaternion().setFromUnitVectors(normalOf(points), NORMAL);
  const flat = points.map((point) => {
    const { x, y } = point.clone().applyQuaternion(level);
    return new Vector2(x, y);
  });
  const geometry = new BufferGeometry();
  geometry.setAttribute('position', new BufferAttribute(new Float32Array(corners.flat()), 3));
  geometry.setIndex(ShapeUtils.triangulateShape(flat, []).flat());
  geometry.computeVertexNormals();
  return geometry;
}
