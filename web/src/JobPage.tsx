import { Button, Container, Typography } from '@mui/material';
import { Link, Navigate, useParams } from 'react-router';
import { words } from './api/client';
import { useJob } from './api/hooks';
import { BenchScreen } from './Bench';
import { CardsScreen } from './cards/CardsScreen';
import { StickCardsScreen } from './cards/StickCardsScreen';
import { Head } from './head/Head';
import { isStep, rackAt } from './head/steps';
import { LogScreen } from './log/LogScreen';
import { RackScreen } from './rack/RackScreen';
import { StockScreen } from './stock/StockScreen';

/** Which page of a job: its rack, its bay before there is any pipe, what is sawn from the shelf, or a step of a run. */
export function JobPage({ page }: { page: 'rack' | 'bay' | 'stock' | 'stick' | 'log' | 'run' }) {
  const { id, run: asked, step, stick } = useParams();
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
  const state = job.data;
  if (!state) return <Head />;
  if (page === 'rack') return <RackScreen key={state.id} state={state} />;
  if (page === 'stock') return <StockScreen key={state.id} state={state} />;
  if (page === 'log') return <LogScreen key={state.id} state={state} />;
  if (page === 'stick')
    return <StickCardsScreen key={`${state.id} ${stick}`} state={state} stick={Number(stick)} />;
  if (page === 'bay') return <BenchScreen key={state.id} state={state} run={undefined} step='measure' />;
  const run = state.job.runs.find((one) => one.id === Number(asked));
  // A run that was taken out, or an address that names none: the rack has what there is.
  if (run && step === 'cards')
    return <CardsScreen key={`${state.id} ${run.id}`} state={state} run={run.id} />;
  if (!run || !isStep(step)) return <Navigate to={rackAt(state.id)} replace />;
  return <BenchScreen key={state.id} state={state} run={run.id} step={step} />;
}
