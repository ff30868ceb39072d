import { Box, Button, Typography } from '@mui/material';
import { useRef } from 'react';
import { Link } from 'react-router';
import type { JobState, Workup } from '../api/generated/schema';
import { useRack } from '../api/hooks';
import { cardsAt, runAt, stepNames } from '../head/steps';
import { sentence, useBench } from '../kit/bench';
import { Findings } from '../kit/Findings';
import { NotDone } from '../kit/NotDone';
import type { Drawing } from '../kit/useDrawing';
import { useWidth } from '../kit/useWidth';
import { token } from '../theme';
import { RackStick, reachOf } from './RackStick';
import { StepBar } from './StepBar';

interface Props {
  state: JobState;
  workup: Workup | undefined;
  drawing: Drawing;
}

/** A run where there is no room for the bench: how it stands, what is wrong, and what mends it. */
export function RunCard({ state, workup, drawing }: Props) {
  const unit = useBench((bench) => bench.unit);
  const rack = useRack(state.id, state.revision);
  const box = useRef<HTMLElement>(null);
  const width = useWidth(box, 390) - 32;
  const run = rack.data?.runs.find((one) => one.run === workup?.run);
  return (
    <Box component='main' ref={box} sx={{ px: 2, py: 2 }}>
      {workup && (
        <>
          <Typography variant='h1' sx={{ fontSize: 30 }}>
            {workup.name}
          </Typography>
          {run && (
            <>
              <Typography color='textSecondary' sx={{ mb: 1.5 }}>
                {sentence(run.tube, unit)}
              </Typography>
              {run.rod && (
                <RackStick
                  rod={run.rod}
                  name={run.name}
                  perMm={width / reachOf(run.rod)}
                  height={78}
                  small={width / reachOf(run.rod) < 0.2}
                />
              )}
              <Box sx={{ my: 1.5 }}>
                <StepBar steps={run.steps} />
              </Box>
            </>
          )}
          <Button
            variant='main'
            component={Link}
            to={cardsAt(state.id, workup.run)}
            sx={{ width: '100%', mb: 1.5, fontSize: 20, py: 1.25 }}
          >
            Bench cards
          </Button>
          {workup.chance != null && (
            <Button
              variant='outlined'
              component={Link}
              to={runAt(state.id, workup.run, 'fit')}
              sx={{ width: '100%', mb: 1.5, fontSize: 20, py: 1 }}
            >
              Try it on
            </Button>
          )}
          <Box sx={{ display: 'grid', gridTemplateColumns: '1fr 1fr', gap: 1.5, mb: 1.5 }}>
            {(['weld', 'prove'] as const).map((step) => (
              <Button
                key={step}
                variant='outlined'
                component={Link}
                to={runAt(state.id, workup.run, step)}
                sx={{ fontSize: 20, py: 1 }}
              >
                {stepNames[step]}
              </Button>
            ))}
          </Box>
          {drawing.problem && <NotDone problem={drawing.problem} onUnderstood={drawing.clearProblem} />}
          <Box
            sx={{ '& .MuiTypography-root': { fontSize: 17 }, '& .MuiButton-root': { fontSize: 17, py: 1 } }}
          >
            <Findings
              open
              findings={workup.findings}
              selected={{ part: 'nothing' }}
              onMend={(edit) => void drawing.keep(edit)}
            />
          </Box>
          {workup.findings.length === 0 && (
            <Typography sx={{ fontSize: 18 }}>Nothing is wrong with this run.</Typography>
          )}
          <Typography variant='body2' sx={{ mt: 2, color: token.inkSoft }}>
            Its bay, its shape and its cuts want a wider screen.
          </Typography>
        </>
      )}
    </Box>
  );
}
