import { Box } from '@mui/material';
import { OrbitControls } from '@react-three/drei';
import { Canvas } from '@react-three/fiber';
import { useMemo, useRef, useState } from 'react';
import { useBench } from '../kit/bench';
import type { Drawing } from '../kit/useDrawing';
import type { Shown } from '../kit/useShown';
import { token } from '../theme';
import { type BayLabel, LabelLayer, LabelPlacer } from './Labels';
import { Lights } from './Lights';
import { labelsOf } from './labelsOf';
import { Scene } from './Scene';
import { MAGNIFIED, measuredThing } from './Survey';
import type { View } from './useViews';
import { ViewButtons } from './ViewButtons';

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
        onPointerMissed={() => select({ part: 'nothing' })}
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
      <ViewButtons
        view={view}
        onView={(name) => {
          if (name) setView(name);
          setAsk(ask + 1);
        }}
      />
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
