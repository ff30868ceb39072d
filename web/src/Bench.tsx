import { Box, CircularProgress, useMediaQuery } from '@mui/material';
import { lazy, Suspense, useEffect, useState } from 'react';
import { useLocation, useNavigate } from 'react-router';
import type { End, JobState, PartRef } from './api/generated/schema';
import { useJobNews } from './api/useJobNews';
import { CutPad } from './cut/CutPad';
import { FitPad } from './fit/FitPad';
import { useFit } from './fit/useFit';
import { Head } from './head/Head';
import { bayAt, rackAt, runAt, type Step } from './head/steps';
import { JoinPad } from './join/JoinPad';
import { type RouteStage, routeStages, type Stage, samePart, stages, useBench } from './kit/bench';
import { ChangedElsewhere } from './kit/ChangedElsewhere';
import { benchKeys, KeysDialog } from './kit/KeysDialog';
import { NotDone } from './kit/NotDone';
import { useDrawing } from './kit/useDrawing';
import { useShown } from './kit/useShown';
import { MeasurePad } from './measure/MeasurePad';
import { NewRunDialog } from './measure/NewRunDialog';
import { ProvePad } from './prove/ProvePad';
import { RunCard } from './rack/RunCard';
import { StoryRod } from './rod/StoryRod';
import { RoutePad } from './route/RoutePad';
import { token } from './theme';
import { useBenchKeys } from './useBenchKeys';
import { useWeld } from './weld/useWeld';
import { WeldPad } from './weld/WeldPad';

const Bay = lazy(() => import('./bay/Bay'));

interface Props {
  state: JobState;
  /** Nothing for the bay before there is any pipe. */
  run: number | undefined;
  step: Step;
}

/** Steps whose pads a phone shows whole. */
const onPhone: readonly Step[] = ['fit', 'weld', 'prove'];

/** What a link to a step may say of what is to be open there. */
interface Opened {
  end?: End;
  part?: PartRef;
  stage?: string;
}

/** The main screen: bay, bench pad and story rod of one run. */
export function BenchScreen({ state, run, step }: Props) {
  const go = useNavigate();
  const { selected, select, show, stage, setStage, setRouteStage } = useBench();
  const [adding, setAdding] = useState(false);
  const [helping, setHelping] = useState(false);
  const drawing = useDrawing(state, run);
  const others = useJobNews(state.id);
  const { workup } = drawing;
  const beside = useShown(state, run);
  const fit = useFit(state, run, step === 'fit');
  const weld = useWeld(state, run, step === 'weld');
  const goTo = ({ end, ...to }: { run?: number; step?: Step; end?: End }) => {
    const which = to.run ?? run;
    const at = which === undefined ? bayAt(state.id) : runAt(state.id, which, to.step ?? step);
    go(at, end ? { state: { end } } : undefined);
  };
  const narrow = useMediaQuery('(max-width: 899px)');
  const location = useLocation();
  const opened = location.state as Opened | null;

  // biome-ignore lint/correctness/useExhaustiveDependencies: another run or step starts from the whole
  useEffect(() => {
    if (opened?.part) return;
    const atPort = step === 'measure' && stage === 'ports' && run !== undefined;
    select(atPort ? { part: 'end', run, end: opened?.end ?? 'a' } : { part: 'nothing' });
  }, [run, step === 'measure']);
  // biome-ignore lint/correctness/useExhaustiveDependencies: only what a link asked for
  useEffect(() => {
    const wanted = opened?.stage;
    if (stages.some((name) => name === wanted)) setStage(wanted as Stage);
    if (routeStages.some((name) => name === wanted)) setRouteStage(wanted as RouteStage);
  }, [opened]);
  const wanted = opened?.part;
  const about = wanted && workup?.findings.find((finding) => samePart(finding.part, wanted));
  // biome-ignore lint/correctness/useExhaustiveDependencies: once, when what a link asked for is there
  useEffect(() => {
    if (about) show(about);
    else if (wanted) select(wanted);
  }, [wanted, about === undefined]);
  useEffect(() => {
    document.title = workup ? `${workup.name} · Nook Bend` : `${state.job.name} · Nook Bend`;
  }, [workup, state.job.name]);
  useBenchKeys({
    drawing,
    selected,
    select,
    onStep: (to) => goTo({ step: to }),
    onRack: () => go(rackAt(state.id)),
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
    join: <JoinPad state={state} workup={workup} drawing={drawing} />,
    cut: <CutPad state={state} workup={workup} drawing={drawing} />,
    fit: <FitPad state={state} workup={workup} drawing={drawing} />,
    weld: <WeldPad state={state} workup={workup} drawing={drawing} />,
    prove: <ProvePad state={state} workup={workup} drawing={drawing} />,
  };

  const head = (
    <Head
      state={state}
      run={run}
      place={step}
      onRun={(next) => goTo({ run: next })}
      onNewRun={() => setAdding(true)}
      onUndo={drawing.undo}
      onRedo={drawing.redo}
      onHelp={() => setHelping(true)}
    />
  );
  if (narrow && run !== undefined) {
    return (
      <>
        {head}
        {onPhone.includes(step) && pads ? (
          // Under the car and at the bench a phone is what is at hand.
          <Box component='main' sx={{ px: 2, py: 2 }}>
            {pads[step]}
          </Box>
        ) : (
          <RunCard state={state} workup={workup} drawing={drawing} />
        )}
      </>
    );
  }
  return (
    <Box
      sx={{
        height: '100vh',
        overflow: 'hidden',
        display: 'grid',
        gridTemplateRows: '52px minmax(0, 1fr) auto',
      }}
    >
      {head}
      <Box
        component='main'
        sx={{ display: 'grid', gridTemplateColumns: 'minmax(0, 1fr) 404px', minHeight: 0 }}
      >
        <Suspense fallback={<Waiting />}>
          <Bay
            state={state}
            drawing={drawing}
            pickPieces={step === 'cut'}
            measuring={step === 'measure'}
            shaping={step === 'route'}
            beside={step === 'route' ? beside : []}
            built={fit?.built ?? undefined}
            seams={weld?.seams}
            onRun={(next) => goTo({ run: next })}
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
            <NotDone problem={drawing.problem} onUnderstood={drawing.clearProblem} />
          )}
          {pads ? (
            pads[step]
          ) : (
            <>
              {/* A bay can be measured before there is any pipe. */}
              {run === undefined && measurePad}
            </>
          )}
        </Box>
      </Box>
      <StoryRod
        drawing={drawing}
        showPieces={step === 'cut' || step === 'fit'}
        seams={weld?.seams}
        beside={step === 'route' ? beside : []}
      />
      <NewRunDialog
        state={state}
        open={adding}
        drawing={drawing}
        onClose={() => {
          setAdding(false);
          drawing.clearProblem();
        }}
        onAdded={(next) => {
          setAdding(false);
          goTo({ run: next, step: 'route' });
        }}
      />
      <ChangedElsewhere news={others} />
      <KeysDialog keys={benchKeys} open={helping} onClose={() => setHelping(false)} />
    </Box>
  );
}

function Waiting() {
  return (
    <Box sx={{ bgcolor: token.dye, display: 'grid', placeItems: 'center' }}>
      <CircularProgress sx={{ color: token.scribe }} aria-label='The bay is being drawn' />
    </Box>
  );
}
