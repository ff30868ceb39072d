import type { BayWorkup, Over, Workup } from '../api/generated/schema';
import { samePart, useBench } from '../kit/bench';
import { token } from '../theme';
import { MovingSection } from './MovingSection';
import { matcap } from './matcaps';
import { RoundBar } from './RoundBar';

interface Props {
  workup: Workup;
  bay: BayWorkup | undefined;
  /** B is open to be looked into: nothing is over its joint. */
  openAtB: boolean;
}

/** Hoses, clamps and flanges over the tube, as thick as they are cleared. */
export function OverTube({ workup, bay, openAtB }: Props) {
  const shown = workup.over.filter(({ of }) => !(openAtB && of.part === 'end' && of.end === 'b'));
  return shown.map((over) => (
    <MovingSection
      key={`${JSON.stringify(over.of)} ${over.what} ${over.from.join(' ')}`}
      bay={bay}
      section={workup.sections[over.section]}
      index={over.section}
    >
      <Bar over={over} />
    </MovingSection>
  ));
}

function Bar({ over }: { over: Over }) {
  const { selected, press } = useBench();
  const lit = samePart(selected, over.of);
  const hose = over.what === 'hose' || over.what === 'elbow';
  const fitting = over.what === 'fitting';
  return (
    <RoundBar
      from={over.from}
      to={over.to}
      radii={[over.radius, over.radius]}
      onClick={(event) => {
        event.stopPropagation();
        press(over.of);
      }}
    >
      <meshMatcapMaterial
        matcap={matcap(hose ? 'rubber' : 'bright')}
        color={lit ? token.straw : fitting ? token.hairline : token.sheet}
        transparent={over.what === 'clamp'}
        opacity={over.what === 'clamp' ? 0.55 : 1}
      />
    </RoundBar>
  );
}
