import type { Over, Workup } from '../api/generated/schema';
import { samePart, useBench } from '../kit/bench';
import { token } from '../theme';
import { RoundBar } from './RoundBar';

/** Hoses, clamps and flanges over the tube, as thick as they are cleared. */
export function OverTube({ workup }: { workup: Workup }) {
  return workup.over.map((over) => (
    <Bar key={`${JSON.stringify(over.of)} ${over.what} ${over.from.join(' ')}`} over={over} />
  ));
}

function Bar({ over }: { over: Over }) {
  const { selected, select } = useBench();
  const lit = samePart(selected, over.of);
  const colour = { hose: lit ? token.hoseLit : token.hose, clamp: token.clamp, flange: token.clamp }[
    over.what
  ];
  const metal = over.what !== 'hose';
  return (
    <RoundBar
      from={over.from}
      to={over.to}
      radii={[over.radius, over.radius]}
      onClick={(event) => {
        event.stopPropagation();
        select(over.of);
      }}
    >
      <meshStandardMaterial
        color={colour}
        metalness={metal ? 0.6 : 0}
        roughness={metal ? 0.35 : 0.75}
        transparent={over.what === 'clamp'}
        opacity={over.what === 'clamp' ? 0.55 : 1}
      />
    </RoundBar>
  );
}
