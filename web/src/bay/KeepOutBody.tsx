import type { ThreeEvent } from '@react-three/fiber';
import { useMemo } from 'react';
import { BufferAttribute, BufferGeometry, Quaternion, ShapeUtils, Vector2, Vector3 } from 'three';
import type { KeepOutWorkup } from '../api/generated/schema';
import { token } from '../theme';
import { RoundBar } from './RoundBar';
import { ScanBody } from './ScanBody';
import { Scribe, ScribedCircle } from './Scribe';

const NORMAL = new Vector3(0, 0, 1);
/** How often a swinging thing is drawn over its range, its place at rest not counted. */
const SWEPT = 5;
const RIGHT = Math.PI / 180;

interface Props {
  keepOut: KeepOutWorkup;
  hovered: boolean;
  selected: boolean;
  onHover: (id: number | undefined) => void;
  onPick: () => void;
}

/** Where a keep-out's name stands. */
export function middleOf({ shape, at, scan }: KeepOutWorkup): [number, number, number] {
  const along = shape.shape === 'line' ? shape.points : shape.shape === 'sheet' ? shape.corners : undefined;
  if (along) {
    const sum = along.reduce((total, point) => total.add(new Vector3(...point)), new Vector3());
    return sum.divideScalar(along.length).toArray();
  }
  if (shape.shape === 'cylinder') {
    return new Vector3(...shape.from)
      .add(new Vector3(...shape.to))
      .multiplyScalar(0.5)
      .toArray();
  }
  if (shape.shape === 'scan') {
    const first = shape.matched?.[0];
    return first?.to.is === 'point' ? first.to.at : (scan?.frame[3] ?? [0, 0, 0]);
  }
  return at.map((c) => c.mm) as [number, number, number];
}

/** Something in the way: a scribed outline with a faint body. What is not there yet is a ghost. */
export function KeepOutBody({ keepOut, hovered, selected, onHover, onPick }: Props) {
  const { swing } = keepOut;
  const turns = useMemo(() => {
    if (!swing) return [];
    return Array.from(
      { length: SWEPT },
      (_, k) => swing.from + ((swing.to - swing.from) * k) / (SWEPT - 1),
    ).filter((turn) => Math.abs(turn) > 0.01);
  }, [swing]);
  const axis = swing && Array.isArray(swing.axis) ? new Vector3(...swing.axis).normalize() : NORMAL;
  return (
    // biome-ignore lint/a11y/noStaticElementInteractions: the list on the bench pad offers the same by keyboard
    <group
      onPointerOver={(event) => {
        event.stopPropagation();
        onHover(keepOut.keep_out);
      }}
      onPointerOut={() => onHover(undefined)}
      onClick={(event: ThreeEvent<MouseEvent>) => {
        // A pipe behind a faint box is picked before the box; a drag that turns the view picks nothing.
        if (event.delta > 3) return;
        event.stopPropagation();
        onPick();
      }}
    >
      <Body keepOut={keepOut} lit={selected} hovered={hovered} ghost={keepOut.standing === 'missing'} />
      {swing &&
        turns.map((turn) => {
          const q = new Quaternion().setFromAxisAngle(axis, turn * RIGHT);
          const pivot = new Vector3(...swing.pivot);
          const position = pivot.clone().sub(pivot.clone().applyQuaternion(q));
          return (
            <group key={turn} quaternion={q} position={position}>
              <Body keepOut={keepOut} lit={false} hovered={hovered} ghost />
            </group>
          );
        })}
    </group>
  );
}

interface BodyProps {
  keepOut: KeepOutWorkup;
  lit: boolean;
  hovered: boolean;
  ghost: boolean;
}

function Body({ keepOut, lit, hovered, ghost }: BodyProps) {
  const { shape } = keepOut;
  const hot = ['hot', 'live_terminal', 'shielded'].includes(keepOut.kind);
  const edge = lit ? token.straw : ghost ? '#8f88c9' : hot ? '#f0b9a8' : token.scribe;
  const flat = shape.shape === 'plane' || shape.shape === 'sheet';
  const fill = (
    <meshBasicMaterial
      color={lit ? '#a98a3c' : hovered ? '#8f86e0' : '#5d54b8'}
      transparent
      opacity={ghost ? 0.03 : (hovered || lit ? 0.28 : 0.13) * (flat ? 0.45 : 1)}
      depthWrite={false}
      forceSinglePass
      side={2}
    />
  );
  const skin = (
    <>
      {fill}
      <Scribe color={edge} opacity={ghost ? 0.55 : 1} />
    </>
  );
  switch (shape.shape) {
    case 'box':
      return (
        <group rotation={[0, 0, shape.heading * RIGHT]} position={shape.centre}>
          <group rotation={[0, -(shape.pitch ?? 0) * RIGHT, 0]}>
            <mesh rotation={[(shape.roll ?? 0) * RIGHT, 0, 0]}>
              <boxGeometry args={shape.size} />
              {skin}
            </mesh>
          </group>
        </group>
      );
    case 'cylinder':
      return (
        <RoundBar from={shape.from} to={shape.to} radii={[shape.diameter / 2, shape.diameter / 2]}>
          {skin}
        </RoundBar>
      );
    case 'sphere':
      return (
        <group position={shape.centre}>
          <mesh>
            <sphereGeometry args={[shape.diameter / 2, 24, 14]} />
            {fill}
          </mesh>
          {(['x', 'y', 'z'] as const).map((axis) => (
            <ScribedCircle
              key={axis}
              radius={shape.diameter / 2}
              axis={axis}
              color={edge}
              opacity={ghost ? 0.5 : 0.9}
            />
          ))}
        </group>
      );
    case 'line':
      return <LineBody points={shape.points} radius={shape.diameter / 2} skin={fill} edge={edge} />;
    case 'plane':
      return (
        <mesh
          position={shape.centre}
          quaternion={new Quaternion().setFromUnitVectors(NORMAL, facing(shape.normal))}
        >
          <planeGeometry args={shape.size} />
          {skin}
        </mesh>
      );
    case 'sheet':
      return <SheetBody corners={shape.corners}>{skin}</SheetBody>;
    case 'scan':
      return <ScanBody keepOut={keepOut} lit={lit || hovered} ghost={ghost} />;
  }
}

type Triple = [number, number, number];

function LineBody({
  points,
  radius,
  skin,
  edge,
}: {
  points: Triple[];
  radius: number;
  skin: React.ReactNode;
  edge: string;
}) {
  return (
    <group>
      {points.slice(1).map((to, index) => (
        <RoundBar key={to.join()} from={points[index] as Triple} to={to} radii={[radius, radius]} open>
          {skin}
        </RoundBar>
      ))}
      {points.map((point) => (
        <mesh key={point.join()} position={point}>
          <sphereGeometry args={[radius, 14, 10]} />
          {skin}
        </mesh>
      ))}
      <line>
        <bufferGeometry
          onUpdate={(geometry) => geometry.setFromPoints(points.map((point) => new Vector3(...point)))}
        />
        <lineBasicMaterial color={edge} />
      </line>
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
  const origin = points[0] ?? new Vector3();
  // Newell's normal holds for outlines that turn inwards too.
  const normal = points.reduce((sum, point, index) => {
    const next = points[(index + 1) % points.length] ?? origin;
    return sum.add(point.clone().sub(origin).cross(next.clone().sub(origin)));
  }, new Vector3());
  const level = new Quaternion().setFromUnitVectors(normal.normalize(), NORMAL);
  const flat = points.map((point) => {
    const { x, y } = point.clone().applyQuaternion(level);
    return new Vector2(x, y);
  });
  const geometry = new BufferGeometry();
  geometry.setAttribute('position', new BufferAttribute(new Float32Array(corners.flat()), 3));
  geometry.setIndex(ShapeUtils.triangulateShape(flat, []).flat());
  return geometry;
}

/** A direction as the server writes it: its components. */
function facing(said: Extract<KeepOutWorkup['shape'], { shape: 'plane' }>['normal']): Vector3 {
  return Array.isArray(said) ? new Vector3(...said) : NORMAL.clone();
}
