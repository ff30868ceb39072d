import { Box, Button, CircularProgress, Container, Snackbar, Typography } from '@mui/material';
import { lazy, Suspense, useEffect, useState } from 'react';
import { Link, useLocation, useNavigate, useParams } from 'react-router';
import { words } from './api/client';
import type { End, JobState } from './api/generated/schema';
import { useJob } from './api/hooks';
import { useJobNews } from './api/useJobNews';
import { CutPad } from './cut/CutPad';
import { Head } from './head/Head';
import { isStep, type Step } from './head/steps';
import { JoinPad } from './join/JoinPad';
import { useBench } from './kit/bench';
import { KeysDialog } from './kit/KeysDialog';
import { useDrawing } from './kit/useDrawing';
import { useShown } from './kit/useShown';
import { MeasurePad } from './measure/MeasurePad';
import { NewRunDialog } from './measure/NewRunDialog';
import { StoryRod } from './rod/StoryRod';
import { RoutePad } from './route/RoutePad';
import { token } from './theme';
import { useBenchKeys } from './useBenchKeys';

const Bay = lazy(() => import('./bay/Bay'));

/** The main screen: bay, bench pad and story rod of one run. */
export function BenchScreen() {
  const { id } = useParams();
  const job = useJob(Number(id));
  if (job.isError) {
    return (
      <>
        <Head />
        <Container component='main' maxWidth='md' sx={{ py: 4 }}>
          <Typography variant='h1' sx={{ mb: 1 }}>
            This job cannot be opened
          </Typography>
          <Typography role='alert' sx={{ mb: 2 }}>
            {words(job.error)}
          </Typography>
          <Button variant='main' component={Link} to='/'>
            All jobs
          </Button>
        </Container>
      </>
    );
  }
  return job.data ? <Bench key={job.data.id} state={job.data} /> : <Head />;
}

function Bench({ state }: { state: JobState }) {
  const params = useParams();
  const go = useNavigate();
  const { selected, select, stage } = useBench();
  const [adding, setAdding] = useState(false);
  const [helping, setHelping] = useState(false);
  const asked = Number(params.run);
  const run = state.job.runs.some((candidate) => candidate.id === asked) ? asked : state.job.runs[0]?.id;
  const step: Step = isStep(params.step) ? params.step : 'route';
  const drawing = useDrawing(state, run);
  const others = useJobNews(state.id);
  const { workup } = drawing;
  const beside = useShown(state, run);
  const goTo = (to: { run?: number | undefined; step?: Step; end?: End }) =>
    go(`/jobs/${state.id}/runs/${to.run ?? run}/${to.step ?? step}`, { state: { end: to.end } });
  const askedEnd = (useLocation().state as { end?: End } | null)?.end ?? 'a';

  // biome-ignore lint/correctness/useExhaustiveDependencies: another run or step starts from the whole
  useEffect(() => {
    const atPort = step === 'measure' && stage === 'ports' && run !== undefined;
    select(atPort ? { part: 'end', run, end: askedEnd } : { part: 'nothing' });
  }, [run, step === 'measure']);
  useEffect(() => {
    document.title = workup ? `${workup.name} · Nook Bend` : `${state.job.name} · Nook Bend`;
  }, [workup, state.job.name]);
  useBenchKeys({
    drawing,
    selected,
    select,
    onStep: (to) => goTo({ step: to }),
    onHelp: () => setHelping(true),
  });

  const measurePad = (
    <MeasurePad
      state={state}
      workup={workup}
      drawing={drawing}
      onNewRun={() => setAdding(true)}
      onPort={(port) => goTo({ run: port.run, end: port.end })}
    />
  );
  const pads = workup && {
    measure: measurePad,
    route: <RoutePad state={state} workup={workup} drawing={drawing} />,
    join: <JoinPad workup={workup} drawing={drawing} />,
    cut: <CutPad state={state} workup={workup} drawing={drawing} />,
  };

  return (
    <Box
      sx={{
        height: '100vh',
        overflow: 'hidden',
        display: 'grid',
        gridTemplateRows: '52px minmax(0, 1fr) auto',
      }}
    >
      <Head
        state={state}
        run={run}
        step={step}
        onRun={(next) => goTo({ run: next })}
        onNewRun={() => setAdding(true)}
        onUndo={drawing.undo}
        onRedo={drawing.redo}
        onHelp={() => setHelping(true)}
      />
      <Box
        component='main'
        sx={{ display: 'grid', gridTemplateColumns: 'minmax(0, 1fr) 404px', minHeight: 0 }}
      >
        <Suspense fallback={<Waiting />}>
          <Bay
            drawing={drawing}
            pickPieces={step === 'cut'}
            measuring={step === 'measure'}
            shaping={step === 'route'}
            beside={step === 'route' ? beside : []}
          />
        </Suspense>
        <Box
          component='section'
          aria-label='Bench pad'
          // A scrolling region must be reachable by keyboard.
          tabIndex={0}
          sx={{
            position: 'relative',
            overflowY: 'auto',
            overflowX: 'hidden',
            px: 2.25,
            py: 1.75,
            borderLeft: `1px solid ${token.hairline}`,
            bgcolor: token.plate,
          }}
        >
          {drawing.problem && !adding && (
            <Box
              role='alert'
              sx={{
                bgcolor: token.foulsPaper,
                borderLeft: `4px solid ${token.fouls}`,
                px: 1.25,
                py: 1,
                mb: 1.25,
              }}
            >
              <Typography variant='body2'>
                <strong>Not done.</strong> {drawing.problem}
              </Typography>
              <Button variant='text' onClick={drawing.clearProblem} sx={{ p: 0 }}>
                Understood
              </Button>
            </Box>
          )}
          {pads ? (
            pads[step]
          ) : (
            <>
              {/* A bay can be measured before there is any pipe. */}
              {step === 'measure' && run === undefined && measurePad}
              <Typography variant='h1' component='h2' sx={{ mb: 1 }}>
                Begin with two ports
              </Typography>
              <Typography sx={{ mb: 2 }}>
                A run is one pipe. Say where its two mouths are and which way they point, and a pipe is there
                at once.
              </Typography>
              {run === undefined && (
                <Button variant='main' onClick={() => setAdding(true)}>
                  Add the first run
                </Button>
              )}
            </>
          )}
        </Box>
      </Box>
      <StoryRod drawing={drawing} showPieces={step === 'cut'} beside={step === 'route' ? beside : []} />
      <NewRunDialog
        open={adding}
        drawing={drawing}
        onClose={() => {
          setAdding(false);
          drawing.clearProblem();
        }}
        onAdded={() => setAdding(false)}
      />
      <ChangedElsewhere times={others} />
      <KeysDialog open={helping} onClose={() => setHelping(false)} />
    </Box>
  );
}

/** Says for a moment that what is on the screen has changed without one's own doing. */
function ChangedElsewhere({ times }: { times: number }) {
  const [seen, setSeen] = useState(0);
  return (
    <Snackbar
      open={times > seen}
      autoHideDuration={5000}
      onClose={() => setSeen(times)}
      anchorOrigin={{ vertical: 'top', horizontal: 'left' }}
      // Over the bay: the head and its steps stay free.
      sx={{ top: { xs: 64, sm: 64 } }}
      message='Changed in another window. You see it as it is now.'
      slotProps={{ content: { role: 'status' } }}
    />
  );
}

function Waiting() {
  return (
    <Box sx={{ bgcolor: token.dye, display: 'grid', placeItems: 'center' }}>
      <CircularProgress sx={{ color: token.scribe }} aria-label='The bay is being drawn' />
    </Box>
  );
}
