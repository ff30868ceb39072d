import type { BayWorkup } from '../api/generated/schema';
import { useBench } from '../kit/bench';
import { token } from '../theme';
import { STUB } from './EndMark';
import { RoundBar } from './RoundBar';

type Triple = [number, number, number];

/** Mouths on the engine where its roll takes them, beside where the pipe was laid to. */
export function MovedMouths({ bay, run }: { bay: BayWorkup; run: number | undefined }) {
  const roll = useBench((bench) => bench.roll);
  if (roll === 0) return null;
  return bay.ports
    .filter((port) => port.rides === 'engine' && port.port.run === run)
    .map((port) => {
      const at = port.at.map((c) => c.mm) as Triple;
      const back = at.map((c, axis) => c - (port.out[axis] ?? 0) * STUB) as Triple;
      return (
        <RoundBar
          key={`${port.port.run} ${port.port.end}`}
          from={back}
          to={at}
          radii={[port.od.mm / 2 + 1, port.od.mm / 2 + 1]}
          open
        >
          <meshBasicMaterial color={token.straw} transparent opacity={0.55} side={2} />
        </RoundBar>
      );
    });
}
