import type { ThreeEvent } from '@react-three/fiber';
import { useQuery } from '@tanstack/react-query';
import { useMemo } from 'react';
import { Matrix4, Vector3 } from 'three';
import { PLYLoader } from 'three/addons/loaders/PLYLoader.js';
import type { KeepOutWorkup } from '../api/generated/schema';
import { useBench } from '../kit/bench';
import { token } from '../theme';
import { matcap } from './matcaps';

interface Props {
  keepOut: KeepOutWorkup;
  lit: boolean;
  ghost: boolean;
}

/** A scan's light copy, where its matched points put it. */
export function ScanBody({ keepOut, lit, ghost }: Props) {
  const { picking, pick } = useBench();
  const id = keepOut.shape.shape === 'scan' ? keepOut.shape.scan : '';
  const drawn = useQuery({
    queryKey: ['scan', id],
    staleTime: Number.POSITIVE_INFINITY,
    queryFn: async () => {
      const answer = await fetch(`/api/scans/${id}/drawn.ply`);
      if (!answer.ok) throw new Error('The scan is not here; bring its file in again.');
      const geometry = new PLYLoader().parse(await answer.arrayBuffer());
      geometry.computeVertexNormals();
      return geometry;
    },
  });
  const { frame, scale } = keepOut.scan ?? { frame: undefined, scale: 1 };
  const place = useMemo(() => {
    const [x, y, z, at] = (frame ?? []).map((triple) => new Vector3(...triple));
    if (!x || !y || !z || !at) return new Matrix4();
    return new Matrix4()
      .makeBasis(x, y, z)
      .setPosition(at)
      .scale(new Vector3(scale, scale, scale));
  }, [frame, scale]);
  if (!drawn.data) return null;
  const waiting = picking === keepOut.keep_out;
  return (
    // biome-ignore lint/a11y/noStaticElementInteractions: the list on the bench pad offers the same by keyboard
    <mesh
      geometry={drawn.data}
      matrix={place}
      matrixAutoUpdate={false}
      onClick={(event: ThreeEvent<MouseEvent>) => {
        if (!waiting || event.delta > 3) return;
        event.stopPropagation();
        const scan = event.object.worldToLocal(event.point.clone()).toArray();
        pick({ keepOut: keepOut.keep_out, scan, at: event.point.toArray() });
      }}
    >
      <meshMatcapMaterial
        matcap={matcap('body')}
        color={waiting ? token.straw : lit ? token.nearBody : token.recedes}
        transparent={ghost}
        opacity={ghost ? 0.3 : 1}
        side={2}
      />
    </mesh>
  );
}
