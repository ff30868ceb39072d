import { Box, Typography } from '@mui/material';
import type { ReactNode } from 'react';
import type { BayWorkup, JobState, PortRef, Workup } from '../api/generated/schema';
import { ComponentStage } from '../boxes/ComponentStage';
import { OpeningList } from '../boxes/OpeningList';
import { type Stage, stages, useBench } from '../kit/bench';
import { Findings } from '../kit/Findings';
import { StageTabs } from '../kit/StageTabs';
import type { Drawing } from '../kit/useDrawing';
import { token } from '../theme';
import { DatumStage } from './DatumStage';
import { KeepOutStage } from './KeepOutStage';
import { MovesStage } from './MovesStage';
import { PortStage } from './PortStage';

interface Props {
  state: JobState;
  workup: Workup | undefined;
  drawing: Drawing;
  onNewRun: () => void;
  /** Opens a port of another run. */
  onPort: (port: PortRef) => void;
}

const stageNames: Record<Stage, string> = {
  datums: 'Datums',
  boxes: 'Boxes',
  ports: 'Ports',
  way: 'In the way',
  moves: 'Moves',
};

const advice: Record<Stage, string> = {
  datums: 'Points on the car you can find again. Everything is taped from them.',
  boxes:
    'The big things decide everything, so they go in first. Each is one: its body, its ports, its mounts.',
  ports: 'Where each mouth is and which way it points. Tape it from three datums or more.',
  way: 'Everything else a pipe must stay clear of, with the gap each wants.',
  moves: 'The engine rolls on its mounts, the car sinks on its springs, some parts turn on their bolts.',
};

/** The bench pad of the Measure step: a guided order that can be left at any time. */
export function MeasurePad({ state, workup, drawing, onNewRun, onPort }: Props) {
  const { stage, setStage, select, selected } = useBench();
  const { bay } = drawing;
  if (!bay) return null;
  const open = (next: Stage) => {
    setStage(next);
    select(next === 'ports' && workup ? { part: 'end', run: workup.run, end: 'a' } : { part: 'nothing' });
  };
  const names = Object.fromEntries(
    stages.map((name) => [
      name,
      <span key={name}>
        {stageNames[name]}
        <Count bay={bay} stage={name} />
      </span>,
    ]),
  ) as Record<Stage, ReactNode>;
  const findings = bay.findings.filter((finding) => belongs(bay, stage, finding.part));
  return (
    <>
      <StageTabs label='Order of measuring' stages={stages} names={names} now={stage} onOpen={open} />
      <Typography variant='body2' color='textSecondary' sx={{ mb: 1, lineHeight: 1.35 }}>
        {advice[stage]}
      </Typography>
      {stage !== 'ports' && (
        <Findings findings={findings} selected={selected} onMend={(edit) => void drawing.keep(edit)} />
      )}
      {stage === 'datums' && <DatumStage state={state} bay={bay} drawing={drawing} />}
      {stage === 'boxes' && (
        <>
          <ComponentStage state={state} bay={bay} drawing={drawing} />
          <Typography variant='h2' component='h3' sx={{ mb: 0.5 }}>
            Openings they breathe through
          </Typography>
          <OpeningList bay={bay} drawing={drawing} />
          <Typography variant='h2' component='h3' sx={{ mt: 2, mb: 0.5 }}>
            Their bodies, as measured
          </Typography>
          <KeepOutStage key='boxes' big state={state} bay={bay} drawing={drawing} />
        </>
      )}
      {stage === 'way' && <KeepOutStage key='way' big={false} state={state} bay={bay} drawing={drawing} />}
      {stage === 'moves' && <MovesStage state={state} bay={bay} drawing={drawing} />}
      {stage === 'ports' && (
        <PortStage
          state={state}
          workup={workup}
          bay={bay}
          drawing={drawing}
          onNewRun={onNewRun}
          onPort={onPort}
        />
      )}
    </>
  );
}

function belongs(bay: BayWorkup, stage: Stage, place: BayWorkup['findings'][number]['part']): boolean {
  if (place.part === 'datum') return stage === 'datums';
  if (place.part === 'component' || place.part === 'mount' || place.part === 'opening')
    return stage === 'boxes';
  if (place.part !== 'keep_out') return false;
  if (bay.components.some((one) => one.body.includes(place.keep_out) && one.freedoms.length > 0))
    return stage === 'boxes';
  const big = bay.keep_outs.find((keepOut) => keepOut.keep_out === place.keep_out)?.big ?? false;
  return stage === (big ? 'boxes' : 'way');
}

function Count({ bay, stage }: { bay: BayWorkup; stage: Stage }) {
  const count = {
    datums: bay.datums.length,
    boxes: bay.components.length,
    ports: bay.ports.length,
    way: bay.keep_outs.filter((keepOut) => !keepOut.big).length,
    moves: (bay.mounts ? 1 : 0) + (bay.stance ? 1 : 0),
  }[stage];
  return (
    <Box component='span' sx={{ ml: 0.6, fontSize: 13, color: token.inkSoft, fontWeight: 500 }}>
      {count}
    </Box>
  );
}
