import { Box, Button } from '@mui/material';
import { Environment, Lightformer, OrbitControls } from '@react-three/drei';
import { Canvas } from '@react-three/fiber';
import { useState } from 'react';
import type { JobState } from '../api/generated/schema';
import { useBench } from '../kit/bench';
import type { Drawing } from '../kit/useDrawing';
import { headingFont, token } from '../theme';
import { EndMark } from './EndMark';
import { KeepOutBody } from './KeepOutBody';
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
  const select = useBench((bench) => bench.select);
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
          showNames={showNames}
          view={view}
          ask={ask}
        />
        <OrbitControls makeDefault enableDamping={false} minDistance={60} maxDistance={9000} />
      </Canvas>
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

function Scene({ state, drawing, pickPieces, showNames, view, ask }: Props & { view: View; ask: number }) {
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
        <KeepOutBody key={keepOut.id} keepOut={keepOut} named={showNames} />
      ))}
      {workup && <Pipe workup={workup} pickPieces={pickPieces} />}
      {workup?.ends.map((end) => (
        <EndMark key={end.end} end={end} workup={workup} />
      ))}
      {workup && held && <PortHandle key={held.end} end={held} run={workup.run} drawing={drawing} />}
    </>
  );
}
