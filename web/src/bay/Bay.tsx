import { Box, Button } from '@mui/material';
import { Environment, Lightformer, OrbitControls } from '@react-three/drei';
import { Canvas } from '@react-three/fiber';
import { memo, useMemo, useRef, useState } from 'react';
import type { BayWorkup, KeepOutWorkup } from '../api/generated/schema';
import { type Stage, samePart, useBench } from '../kit/bench';
import type { Drawing } from '../kit/useDrawing';
import type { Shown } from '../kit/useShown';
import { headingFont, token } from '../theme';
import { AirTint } from './AirTint';
import { along, EndMark, STUB } from './EndMark';
import { EngineSide } from './EngineSide';
import { GhostPipe } from './GhostPipe';
import { Handle } from './Handle';
import { KeepOutBody, middleOf } from './KeepOutBody';
import { type BayLabel, LabelLayer, LabelPlacer } from './Labels';
import { Pipe } from './Pipe';
import { RoundBar } from './RoundBar';
import { ShapeHandles } from './ShapeHandles';
import { MAGNIFIED, measuredThing, Survey } from './Survey';
import { useView, type View, views } from './useViews';

interface Props {
  drawing: Drawing;
  pickPieces: boolean;
  /** The Measure step: datums, tapes and things in the way can be picked and dragged. */
  measuring: boolean;
  /** The Route step: vertices and legs can be dragged, and how near the pipe comes is tinted on it. */
  shaping: boolean;
  /** Ways drawn beside the one taken. */
  beside: Shown[];
}

/** The bay: the dyed plate with the pipe as real metal on it. */
export default function Bay({ drawing, pickPieces, measuring, shaping, beside }: Props) {
  const [view, setView] = useState<View>('Iso');
  const [ask, setAsk] = useState(0);
  const { select, selected, roll, stage } = useBench();
  const [hovered, setHovered] = useState<number>();
  const layer = useRef<HTMLDivElement>(null);
  const { workup, bay } = drawing;
  const thing = measuring && bay ? measuredThing(bay, selected, workup?.run) : undefined;
  const labels = useMemo<BayLabel[]>(
    () => (bay ? labelsOf(bay, drawing, selected, measuring, hovered, stage) : []),
    [bay, drawing, selected, measuring, hovered, stage],
  );
  return (
    <Box
      component='section'
      aria-label='Bay'
      sx={{ position: 'relative', height: '100%', bgcolor: token.dye }}
    >
      <Canvas
        frameloop='demand'
        camera={{ fov: 30, near: 10, far: 20000, position: [900, -1400, 1000] }}
        dpr={[1, 2]}
        gl={{ antialias: true }}
        onPointerMissed={() => select({ part: 'run' })}
        role='img'
        aria-label='The pipe in the bay. The story rod below offers the same parts by keyboard.'
      >
        <color attach='background' args={[token.dye]} />
        <Lights />
        <Scene
          drawing={drawing}
          pickPieces={pickPieces}
          measuring={measuring}
          shaping={shaping}
          beside={beside}
          hovered={hovered}
          onHover={setHovered}
          view={view}
          ask={ask}
        />
        <LabelPlacer labels={labels} layer={layer} />
        <OrbitControls makeDefault enableDamping={false} minDistance={60} maxDistance={9000} />
      </Canvas>
      <LabelLayer labels={labels} layer={layer} />
      <Box
        sx={{ position: 'absolute', top: 12, right: 12, display: 'grid', gap: '2px' }}
        role='group'
        aria-label='Views'
      >
        {views.map((name) => (
          <Button
            key={name}
            onClick={() => {
              setView(name);
              setAsk(ask + 1);
            }}
            aria-pressed={view === name}
            sx={viewButton(view === name)}
          >
            {name}
          </Button>
        ))}
        <Button onClick={() => setAsk(ask + 1)} sx={{ ...viewButton(false), mt: '6px' }}>
          Fit
        </Button>
      </Box>
      <Box
        sx={{
          position: 'absolute',
          left: 14,
          bottom: 10,
          color: token.scribe,
          fontSize: 13,
          pointerEvents: 'none',
        }}
      >
        x forward · y left · z up
        {thing?.found.ellipsoid && ` · error drawn ${MAGNIFIED} times its size`}
        {measuring && roll !== 0 && ` · engine shown rolled ${roll.toFixed(1)}°`}
      </Box>
    </Box>
  );
}

/**
 * The light on the plate. Drawn anew only once: its reflections are made from what it holds, and making them takes longer
 * than a frame.
 */
const Lights = memo(function Lights() {
  return (
    <>
      <ambientLight intensity={0.75} />
      <directionalLight position={[600, -800, 1500]} intensity={1.5} />
      <Environment resolution={64} frames={1}>
        <Lightformer form='rect' intensity={2.2} position={[0, 0, 6]} scale={[10, 10, 1]} />
        <Lightformer form='rect' intensity={1.2} position={[6, -5, 1]} scale={[8, 4, 1]} />
        <Lightformer form='rect' intensity={0.5} color='#8b84d8' position={[-6, 5, -3]} scale={[10, 10, 1]} />
      </Environment>
    </>
  );
});

const viewButton = (on: boolean) => ({
  minWidth: 52,
  fontFamily: headingFont,
  fontSize: 15,
  px: 1,
  py: 0.5,
  color: on ? token.ink : token.scribe,
  bgcolor: on ? token.plate : token.dyeDeep,
  '&:hover': { bgcolor: on ? token.plate : '#3a328c' },
});

interface SceneProps {
  drawing: Drawing;
  pickPieces: boolean;
  measuring: boolean;
  shaping: boolean;
  beside: Shown[];
  hovered: number | undefined;
  onHover: (id: number | undefined) => void;
  view: View;
  ask: number;
}

function Scene({ drawing, pickPieces, measuring, shaping, beside, hovered, onHover, view, ask }: SceneProps) {
  const { workup, bay } = drawing;
  const { select, selected } = useBench();
  useView(view, ask, workup, bay?.keep_outs ?? []);
  const body = (keepOut: KeepOutWorkup) => (
    <KeepOutBody
      key={keepOut.keep_out}
      keepOut={keepOut}
      hovered={keepOut.keep_out === hovered}
      selected={samePart(selected, { part: 'keep_out', keep_out: keepOut.keep_out })}
      onHover={onHover}
      onPick={() => measuring && select({ part: 'keep_out', keep_out: keepOut.keep_out })}
    />
  );
  const all = bay?.keep_outs ?? [];
  return (
    <>
      <gridHelper
        args={[3000, 40, '#4a42a3', '#393189']}
        rotation={[Math.PI / 2, 0, 0]}
        position={[200, 0, -230]}
      />
      {all.filter((one) => one.rides === 'body').map(body)}
      <EngineSide bay={bay} still={!measuring}>
        {all.filter((one) => one.rides === 'engine').map(body)}
        {measuring && bay && <MovedMouths bay={bay} run={workup?.run} />}
      </EngineSide>
      {workup && <Pipe workup={workup} pickPieces={pickPieces} />}
      {workup?.air && !measuring && <AirTint air={workup.air} radius={workup.od.mm / 2} />}
      {beside.map((way) => (
        <GhostPipe key={way.name} way={way} />
      ))}
      {workup && shaping && <ShapeHandles workup={workup} drawing={drawing} />}
      {workup?.ends.map((end) => (
        <EndMark key={end.end} end={end} workup={workup} />
      ))}
      {bay && measuring && <Survey bay={bay} run={workup?.run} />}
      {bay && <Dragged bay={bay} drawing={drawing} measuring={measuring} />}
    </>
  );
}

type Triple = [number, number, number];

/** Mouths on the engine where its roll takes them, beside where the pipe was laid to. */
function MovedMouths({ bay, run }: { bay: BayWorkup; run: number | undefined }) {
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

/** Arrows on what is selected, where it is not held by readings. */
function Dragged({ bay, drawing, measuring }: { bay: BayWorkup; drawing: Drawing; measuring: boolean }) {
  const selected = useBench((bench) => bench.selected);
  const planes = useMemo(
    () => [0, 1, 2].map((axis) => bay.datums.map((datum) => datum.at[axis]?.mm ?? 0)),
    [bay.datums],
  ) as unknown as readonly [number[], number[], number[]];
  const { workup } = drawing;
  const end = selected.part === 'end' ? workup?.ends.find((one) => one.end === selected.end) : undefined;
  if (workup && end) {
    const port = bay.ports.find((one) => one.port.run === workup.run && one.port.end === end.end);
    if (port?.found.place === 'readings' || port?.component != null) return null;
    const move = (at: Triple) => ({ edit: 'move_port' as const, run: workup.run, end: end.end, at });
    return (
      <Handle
        key={`${workup.run} ${end.end}`}
        at={end.at.map((c) => c.mm) as Triple}
        planes={planes}
        onMove={(at) => drawing.propose(move(at))}
        onDone={(at) => void drawing.keep(move(at))}
      />
    );
  }
  const keepOut =
    measuring && selected.part === 'keep_out'
      ? bay.keep_outs.find((one) => one.keep_out === selected.keep_out)
      : undefined;
  if (!keepOut || keepOut.found.place === 'readings' || keepOut.shape.shape === 'scan') return null;
  const move = (at: Triple) => ({ edit: 'move_keep_out' as const, keep_out: keepOut.keep_out, at });
  return (
    <Handle
      key={keepOut.keep_out}
      at={keepOut.at.map((c) => c.mm) as Triple}
      planes={planes}
      onMove={(at) => drawing.proposeBay(move(at))}
      onDone={(at) => void drawing.keep(move(at))}
    />
  );
}

function labelsOf(
  bay: BayWorkup,
  drawing: Drawing,
  selected: ReturnType<typeof useBench.getState>['selected'],
  measuring: boolean,
  hovered: number | undefined,
  stage: Stage,
): BayLabel[] {
  const ends = (drawing.workup?.ends ?? []).map((end) => ({
    key: end.end,
    at: along(end, -STUB),
    text: `${end.end.toUpperCase()} ${end.name}`,
    look: samePart(selected, { part: 'end', end: end.end }) ? ('lit' as const) : ('end' as const),
  }));
  const isLit = (one: KeepOutWorkup) => samePart(selected, { part: 'keep_out', keep_out: one.keep_out });
  const lit = measuring ? bay.keep_outs.filter(isLit) : [];
  const thing = measuring ? measuredThing(bay, selected, drawing.workup?.run) : undefined;
  const suspect = thing?.found.readings.find((reading) => reading.suspect);
  const [from, to] = suspect?.line ?? [];
  const wrong =
    suspect && from && to
      ? [
          {
            key: 'suspect',
            at: from.map((c, axis) => (c + (to[axis] ?? c)) / 2) as Triple,
            text: `${suspect.name}?`,
            look: 'wrong' as const,
          },
        ]
      : [];
  // A datum's name matters while something is taped from it or it is looked at.
  const named =
    measuring && (selected.part === 'datum' || selected.part === 'end' || selected.part === 'run');
  const datums = (named ? bay.datums : []).map((datum) => ({
    key: `datum ${datum.datum}`,
    at: datum.at.map((c) => c.mm) as Triple,
    text: datum.name,
    look: samePart(selected, { part: 'datum', datum: datum.datum }) ? ('lit' as const) : ('name' as const),
  }));
  // All names only while nothing is looked at: beside the one that is they are noise.
  const idle = measuring && selected.part === 'run';
  const shown = bay.keep_outs.filter(
    (one) => !isLit(one) && (one.keep_out === hovered || (measuring && one.big) || (idle && stage === 'way')),
  );
  const names = shown.map((one) => ({
    key: String(one.keep_out),
    at: middleOf(one),
    text: one.standing === 'missing' ? `${one.name}, missing` : one.name,
    look: 'name' as const,
  }));
  const chosen = lit.map((one) => ({
    key: String(one.keep_out),
    at: middleOf(one),
    text: one.name,
    look: 'lit' as const,
  }));
  return [...chosen, ...wrong, ...ends, ...datums, ...names];
}
