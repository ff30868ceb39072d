import type { ThreeEvent } from '@react-three/fiber';
import { useEffect, useMemo } from 'react';
import type { BayWorkup, PipeWorkup } from '../api/generated/schema';
import { token } from '../theme';
import { EngineSide } from './EngineSide';
import type { LitLook, LitThings } from './lit';
import { matcap } from './matcaps';
import { RoundBar } from './RoundBar';
import { sweep } from './sweep';

interface Props {
  bay: BayWorkup;
  /** The run in hand, which is drawn on its own. */
  run: number | undefined;
  lit: LitThings['runs'];
  hovered: number | undefined;
  onHover: (run: number | undefined) => void;
  onPick: (run: number) => void;
}

const ROUND = 20;
const PIPE = { blocks: true, pipe: true };
const colours: Partial<Record<LitLook, string>> = { fouls: token.foulsBody, tight: token.tightBody };

/** The other runs whole, with their joints, in dull metal; pressing one goes to it. */
export function OtherPipes({ bay, run, lit, hovered, onHover, onPick }: Props) {
  return bay.pipes
    .filter((pipe) => pipe.run !== run)
    .map((pipe) => (
      <EngineSide key={pipe.run} bay={bay} still={pipe.rides !== 'engine'}>
        <OtherPipe
          pipe={pipe}
          colour={
            hovered === pipe.run
              ? token.scribe
              : (colours[lit.get(pipe.run)?.look ?? 'near'] ?? token.dullPipe)
          }
          onHover={onHover}
          onPick={onPick}
        />
      </EngineSide>
    ));
}

interface OneProps extends Pick<Props, 'onHover' | 'onPick'> {
  pipe: PipeWorkup;
  colour: string;
}

function OtherPipe({ pipe, colour, onHover, onPick }: OneProps) {
  const skin = useMemo(() => sweep(pipe.line, pipe.radius, ROUND), [pipe.line, pipe.radius]);
  useEffect(() => () => skin.dispose(), [skin]);
  return (
    // biome-ignore lint/a11y/noStaticElementInteractions: the list of runs in the head offers the same by keyboard
    <group
      userData={PIPE}
      onPointerOver={(event) => {
        event.stopPropagation();
        onHover(pipe.run);
      }}
      onPointerOut={() => onHover(undefined)}
      onClick={(event: ThreeEvent<MouseEvent>) => {
        if (event.delta > 3) return;
        event.stopPropagation();
        onPick(pipe.run);
      }}
    >
      <mesh geometry={skin}>
        <meshMatcapMaterial matcap={matcap('dull')} color={colour} side={2} />
      </mesh>
      {pipe.over.map((over) => (
        <RoundBar
          key={`${over.what} ${over.from.join(' ')}`}
          from={over.from}
          to={over.to}
          radii={[over.radius, over.radius]}
        >
          <meshMatcapMaterial
            matcap={matcap('dull')}
            color={over.what === 'hose' || over.what === 'elbow' ? token.dullHose : token.dullPipe}
          />
        </RoundBar>
      ))}
    </group>
  );
}
