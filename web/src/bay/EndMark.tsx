import { Vector3 } from 'three';
import type { EndWorkup, Workup } from '../api/generated/schema';
import { samePart, useBench } from '../kit/bench';
import { token } from '../theme';
import { RoundBar } from './RoundBar';

type Triple = [number, number, number];

/** Thickness of hose drawn round the tube, mm. */
const HOSE = 4.5;
/** Length of the component's stub behind its mouth, mm. */
export const STUB = 46;
const ARROW = 120;

export function along(end: EndWorkup, distance: number): Triple {
  const [x, y, z] = end.at;
  return new Vector3(x.mm, y.mm, z.mm).addScaledVector(new Vector3(...end.out), distance).toArray();
}

/** A port: the component's stub, the way out of it, the sleeve over the joint and its name. */
export function EndMark({ end, workup }: { end: EndWorkup; workup: Workup }) {
  const { selected, select } = useBench();
  const lit = samePart(selected, { part: 'end', end: end.end });
  const [port, tube] = [end.port_od.mm / 2, workup.od.mm / 2];
  const mouth = along(end, 0);
  const pick = (event: { stopPropagation: () => void }) => {
    event.stopPropagation();
    select({ part: 'end', end: end.end });
  };
  const [tip, shaft, head] = [along(end, ARROW), along(end, ARROW - 22), along(end, 0)];
  return (
    <group>
      <RoundBar from={along(end, -STUB - end.port_seat.mm)} to={mouth} radii={[port, port]} onClick={pick}>
        <meshStandardMaterial color={token.mouth} metalness={0.1} roughness={0.7} />
      </RoundBar>
      {end.hose && (
        <>
          <RoundBar
            from={along(end, -end.port_seat.mm)}
            to={along(end, end.gap.mm + end.seat.mm)}
            radii={[port + HOSE, tube + HOSE]}
            onClick={pick}
          >
            <meshStandardMaterial color={lit ? token.hoseLit : token.hose} roughness={0.75} />
          </RoundBar>
          {[-end.port_seat.mm + 12, end.gap.mm + end.seat.mm - 12].map((station, side) => {
            const radius = (side === 0 ? port : tube) + HOSE + 1;
            return (
              <RoundBar
                key={station}
                from={along(end, station - 6)}
                to={along(end, station + 6)}
                radii={[radius, radius]}
              >
                <meshStandardMaterial color={token.clamp} metalness={0.6} roughness={0.35} />
              </RoundBar>
            );
          })}
        </>
      )}
      <RoundBar from={head} to={shaft} radii={[1.6, 1.6]}>
        <meshBasicMaterial color={lit ? token.straw : token.scribe} depthTest={false} transparent />
      </RoundBar>
      <RoundBar from={shaft} to={tip} radii={[8, 0.01]}>
        <meshBasicMaterial color={lit ? token.straw : token.scribe} depthTest={false} transparent />
      </RoundBar>
    </group>
  );
}
