import { Box } from '@mui/material';
import { OrbitControls, OrthographicCamera, PerspectiveCamera } from '@react-three/drei';
import { Canvas } from '@react-three/fiber';
import { useMemo, useRef, useState } from 'react';
import type { BuiltWorkup, JobState, SeamWorkup } from '../api/generated/schema';
import { layerNames, useBench } from '../kit/bench';
import type { Drawing } from '../kit/useDrawing';
import { useKeys } from '../kit/useKeys';
import type { Shown } from '../kit/useShown';
import { token } from '../theme';
import { BayTools, layerKeys } from './BayTools';
import { bodyOf } from './Boxes';
import { GapStrip } from './GapStrip';
import { type BayLabel, LabelLayer, LabelPlacer } from './Labels';
import { labelsOf, type Pointed, seamLabels } from './labelsOf';
import { litThings } from './lit';
import { Scene } from './Scene';
import { MAGNIFIED, measuredThing } from './Survey';
import { useGap } from './useGap';
import { useRoll } from './useRoll';
import { isFlat, type View } from './useViews';

interface Props {
  state: JobState;
  drawing: Drawing;
  pickPieces: boolean;
  /** The Measure step: datums, tapes and things in the way can be picked and dragged. */
  measuring: boolean;
  /** The Route step: vertices and legs can be dragged, and how near the pipe comes is tinted on it. */
  shaping: boolean;
  /** Ways drawn beside the one taken. */
  beside: Shown[];
  /** The pipe as it was built; nothing where it is shown as planned. */
  built?: BuiltWorkup | undefined;
  /** Welds that are numbered where they are. */
  seams?: readonly SeamWorkup[] | undefined;
  /** Another run was pressed. */
  onRun: (run: number) => void;
}

/** The bay: the dyed plate with the pipe as real metal on it. What matters is lit; the rest recedes. */
export default function Bay({
  state,
  drawing,
  pickPieces,
  measuring,
  shaping,
  beside,
  built,
  seams,
  onRun,
}: Props) {
  const [view, setView] = useState<View>('Space');
  const [ask, setAsk] = useState(0);
  const bench = useBench();
  const { selected, sight, roll, stage, unit, layers, between } = bench;
  const [pointed, setPointed] = useState<Pointed>({ keepOut: undefined, run: undefined });
  const layer = useRef<HTMLDivElement>(null);
  const { workup, bay } = drawing;
  useRoll(bay?.mounts);
  const gap = useGap(state.id, state.revision, between);
  const body = useMemo(() => bodyOf(bay, selected), [bay, selected]);
  const lit = useMemo(
    () => litThings(workup, selected, sight, roll, body),
    [workup, selected, sight, roll, body],
  );
  const thing = measuring && bay ? measuredThing(bay, selected, workup?.run) : undefined;
  const labels = useMemo<BayLabel[]>(() => {
    if (!bay) return [];
    return [
      ...seamLabels(seams, selected),
      ...labelsOf({
        bay,
        drawing,
        lit,
        measuring,
        pointed,
        bench: { selected, stage, unit, layers, between },
      }),
    ];
  }, [bay, drawing, lit, measuring, pointed, seams, selected, stage, unit, layers, between]);
  useKeys((event) => {
    const toggled = layerNames.find((name) => layerKeys[name] === event.key);
    if (toggled) bench.toggleLayer(toggled);
    else if (event.key === 'p') bench.setPlaying(!bench.playing && Boolean(bay?.mounts));
    else if (event.key === 'd') bench.setBetween(between ? undefined : []);
    else if (event.key === 'f') setAsk(ask + 1);
    else return false;
    return true;
  });
  return (
    <Box
      component='section'
      aria-label='Bay'
      sx={{ position: 'relative', height: '100%', bgcolor: token.dye }}
    >
      <Canvas
        frameloop='demand'
        dpr={[1, 2]}
        flat
        gl={{ antialias: true }}
        onPointerMissed={() => !between && bench.select({ part: 'nothing' })}
        role='img'
        aria-label='The pipe in the bay. The story rod below offers the same parts by keyboard.'
      >
        <color attach='background' args={[token.dye]} />
        {isFlat(view) ? (
          <OrthographicCamera makeDefault near={1} far={12000} position={[0, 0, 6000]} up={[0, 0, 1]} />
        ) : (
          <PerspectiveCamera
            makeDefault
            fov={30}
            near={10}
            far={20000}
            position={[900, -1400, 1000]}
            up={[0, 0, 1]}
          />
        )}
        <Scene
          drawing={drawing}
          pickPieces={pickPieces}
          measuring={measuring}
          shaping={shaping}
          beside={beside}
          built={built}
          lit={lit}
          pointed={pointed}
          onPoint={(now) => setPointed((before) => ({ ...before, ...now }))}
          onRun={onRun}
          gap={gap}
          view={view}
          ask={ask}
        />
        <LabelPlacer labels={labels} layer={layer} />
        <OrbitControls
          makeDefault
          enableDamping={false}
          minDistance={60}
          maxDistance={9000}
          minZoom={0.05}
          maxZoom={12}
        />
      </Canvas>
      <LabelLayer labels={labels} layer={layer} />
      <BayTools
        view={view}
        rolls={Boolean(bay?.mounts)}
        onView={(name) => {
          if (name) setView(name);
          setAsk(ask + 1);
        }}
      />
      {bay && between ? (
        <GapStrip state={state} bay={bay} between={between} gap={gap} />
      ) : (
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
          {roll !== 0 && ` · engine shown rolled ${roll.toFixed(1)}°`}
        </Box>
      )}
    </Box>
  );
}
