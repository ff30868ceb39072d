import { Box, Button } from '@mui/material';
import { Environment, Lightformer, OrbitControls } from '@react-three/drei';
import { Canvas } from '@react-three/fiber';
import { useMemo, useRef, useState } from 'react';
import type { JobState } from '../api/generated/schema';
import { samePart, useBench } from '../kit/bench';
import type { Drawing } from '../kit/useDrawing';
import { headingFont, token } from '../theme';
import { along, EndMark, STUB } from './EndMark';
import { KeepOutBody, middleOf } from './KeepOutBody';
import { type BayLabel, LabelLayer, LabelPlacer } from './Labels';
import { Pipe } from './Pipe';
import { PortHandle } from './PortHandle';
import { useView, type View, views } from './useViews';

interface Props {
  state: JobState;
  drawing: Drawing;
  pickPieces: boolean;
  showNames: boolean;
}

/** The bay: the dyed plate with the pipe as real metal on it. */
export default function Bay({ state, drawing, pickPieces, showNames }: Props) {
  const [view, setView] = useState<View>('Iso');
  const [ask, setAsk] = useState(0);
  const { select, selected } = useBench();
  const [hovered, setHovered] = useState<number>();
  const layer = useRef<HTMLDivElement>(null);
  const { workup } = drawing;
  const labels = useMemo<BayLabel[]>(() => {
    const ends = (workup?.ends ?? []).map((end) => ({
      key: end.end,
      at: along(end, -STUB),
      text: `${end.end.toUpperCase()} ${end.name}`,
      look: samePart(selected, { part: 'end', end: end.end }) ? ('lit' as const) : ('end' as const),
    }));
    const named = state.job.keep_outs.filter((keepOut) => showNames || keepOut.id === hovered);
    const names = named.map((keepOut) => ({
      key: String(keepOut.id),
      at: middleOf(keepOut),
      text: keepOut.name,
      look: 'name' as const,
    }));
    return [...ends, ...names];
  }, [workup?.ends, selected, state.job.keep_outs, showNames, hovered]);
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
        <ambientLight intensity={0.75} />
        <directionalLight position={[600, -800, 1500]} intensity={1.5} />
        <Environment resolution={64} frames={1}>
          <Lightformer form='rect' intensity={2.2} position={[0, 0, 6]} scale={[10, 10, 1]} />
          <Lightformer form='rect' intensity={1.2} position={[6, -5, 1]} scale={[8, 4, 1]} />
          <Lightformer
            form='rect'
            intensity={0.5}
            color='#8b84d8'
            position={[-6, 5, -3]}
            scale={[10, 10, 1]}
          />
        </Environment>
        <Scene
          state={state}
          drawing={drawing}
          pickPieces={pickPieces}
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
      </Box>
    </Box>
  );
}

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
  state: JobState;
  drawing: Drawing;
  pickPieces: boolean;
  hovered: number | undefined;
  onHover: (id: number | undefined) => void;
  view: View;
  ask: number;
}

function Scene({ state, drawing, pickPieces, hovered, onHover, view, ask }: SceneProps) {
  const { workup } = drawing;
  const selected = useBench((bench) => bench.selected);
  const held = selected.part === 'end' ? workup?.ends.find((end) => end.end === selected.end) : undefined;
  useView(view, ask, workup, state.job.keep_outs);
  return (
    <>
      <gridHelper
        args={[3000, 40, '#4a42a3', '#393189']}
        rotation={[Math.PI / 2, 0, 0]}
        position={[200, 0, -230]}
      />
      {state.job.keep_outs.map((keepOut) => (
        <KeepOutBody key={keepOut.id} keepOut={keepOut} hovered={keepOut.id === hovered} onHover={onHover} />
      ))}
      {workup && <Pipe workup={workup} pickPieces={pickPieces} />}
      {workup?.ends.map((end) => (
        <EndMark key={end.end} end={end} workup={workup} />
      ))}
      {workup && held && <PortHandle key={held.end} end={held} run={workup.run} drawing={drawing} />}
    </>
  );
}
