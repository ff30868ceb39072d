import { Vector3 } from 'three';
import type { EndWorkup, Workup } from '../api/generated/schema';
import { samePart, useBench } from '../kit/bench';
import { token } from '../theme';
import { matcap } from './matcaps';
import { RoundBar } from './RoundBar';

type Triple = [number, number, number];

/** Length of the component's stub behind its mouth, mm. */
export const STUB = 46;
const ARROW = 120;

export function along(end: EndWorkup, distance: number): Triple {
  const [x, y, z] = end.at;
  return new Vector3(x.mm, y.mm, z.mm).addScaledVector(new Vector3(...end.out), distance).toArray();
}

/** A port: the component's stub, the way out of it and the hose over it. */
export function EndMark({ end, workup, open }: { end: EndWorkup; workup: Workup; open: boolean }) {
  const { selected, press } = useBench();
  const part = { part: 'end', run: workup.run, end: end.end } as const;
  const lit = samePart(selected, part);
  const port = end.port_od.mm / 2;
  // Over the port the hose is as thick as over the tube's end.
  const over = workup.over.find((one) => one.what === 'hose' && samePart(one.of, part));
  const hose = over?.radius ?? port;
  const mouth = along(end, 0);
  const pick = (event: { stopPropagation: () => void }) => {
    event.stopPropagation();
    press(part);
  };
  const [tip, shaft, head] = [along(end, ARROW), along(end, ARROW - 22), along(end, 0)];
  return (
    <group>
      <RoundBar from={along(end, -STUB - end.port_seat.mm)} to={mouth} radii={[port, port]} onClick={pick}>
        <meshMatcapMaterial matcap={matcap('body')} color={lit ? token.straw : token.mouth} />
      </RoundBar>
      {end.hose && !open && (
        <RoundBar from={along(end, -end.port_seat.mm)} to={mouth} radii={[hose, hose]} onClick={pick}>
          <meshMatcapMaterial matcap={matcap('rubber')} color={lit ? token.straw : token.sheet} />
        </RoundBar>
      )}
      {!open && (
        <>
          <RoundBar from={head} to={shaft} radii={[1.6, 1.6]}>
            <meshBasicMaterial color={lit ? token.straw : token.scribe} depthTest={false} transparent />
          </RoundBar>
          <RoundBar from={shaft} to={tip} radii={[8, 0.01]}>
            <meshBasicMaterial color={lit ? token.straw : token.scribe} depthTest={false} transparent />
          </RoundBar>
        </>
      )}
    </group>
  );
}
