import { Box, Button, Typography } from '@mui/material';
import { useState } from 'react';
import { words } from '../api/client';
import type { LogState, RunSpent, WorkStep } from '../api/generated/schema';
import { useDeed } from '../api/record';
import { stepNames } from '../head/steps';
import { NotDone } from '../kit/NotDone';
import { PlainField } from '../kit/PlainField';
import { token } from '../theme';
import { AddPicture } from './AddPicture';
import { RunAndStep } from './RunAndStep';

interface Props {
  job: number;
  log: LogState;
}

const hours = (minutes: number) => (minutes / 60).toFixed(1);

/** What runs were planned to take, and took; and a time said afterwards. */
export function Spent({ job, log }: Props) {
  const { runs } = log;
  return (
    <Box component='section' aria-label='Time'>
      <Typography variant='h2' sx={{ mb: 0.5 }}>
        Planned and spent
      </Typography>
      <Typography variant='body2' color='textSecondary' sx={{ mb: 1 }}>
        {log.from_runs === 0
          ? 'By the usual rates. Note what yours take, and the plan goes by that.'
          : `By the usual rates and ${log.from_runs} ${log.from_runs === 1 ? 'run' : 'runs'} of yours.`}
      </Typography>
      {runs.map((run) => (
        <OfRun key={run.run} run={run} />
      ))}
      <Said job={job} runs={runs} />
      <AddPicture job={job} runs={runs} />
    </Box>
  );
}

function OfRun({ run }: { run: RunSpent }) {
  const spent = run.steps.reduce((sum, step) => sum + step.spent, 0);
  const planned = run.steps.reduce((sum, step) => sum + step.planned, 0);
  const [least, most] = run.likely ?? [];
  const wide = Math.max(spent, planned, 1);
  return (
    <Box sx={{ py: 0.5, borderTop: `1px solid ${token.hairline}` }}>
      <Box sx={{ display: 'flex', justifyContent: 'space-between', fontSize: 15 }}>
        <span>{run.name}</span>
        <strong>
          {spent > 0 ? `${hours(spent)} of ` : ''}
          {least === undefined || most === undefined
            ? 'no pipe yet'
            : `${least.toFixed(1)} to ${most.toFixed(1)} h`}
        </strong>
      </Box>
      {spent > 0 && (
        <>
          <Box sx={{ position: 'relative', height: 6, bgcolor: token.hairline, my: 0.5 }} aria-hidden='true'>
            <Box
              sx={{
                position: 'absolute',
                inset: 0,
                width: `${(planned / wide) * 100}%`,
                bgcolor: token.clear,
              }}
            />
            <Box
              sx={{
                position: 'absolute',
                inset: 0,
                width: `${(spent / wide) * 100}%`,
                height: 3,
                bgcolor: token.dye,
              }}
            />
          </Box>
          <Typography variant='body2' color='textSecondary'>
            {run.steps
              .filter((step) => step.spent > 0)
              .map(
                (step) =>
                  `${stepNames[step.step]} ${hours(step.spent)} h${step.planned > 0 ? ` of ${hours(step.planned)}` : ''}`,
              )
              .join(' · ')}
          </Typography>
        </>
      )}
    </Box>
  );
}

/** A time said afterwards. */
function Said({ job, runs }: { job: number; runs: readonly RunSpent[] }) {
  const { mutateAsync, isPending } = useDeed(job);
  const [run, setRun] = useState(runs[0]?.run);
  const [step, setStep] = useState<WorkStep>('cut');
  const [text, setText] = useState('');
  const [problem, setProblem] = useState<string>();
  const minutes = Number(text.replace(',', '.'));
  const good = minutes > 0 && minutes <= 6000;
  const mine = runs.find((one) => one.run === run);
  if (!mine) return null;
  const note = async () => {
    const planned = mine.steps.find((one) => one.step === step)?.planned ?? 0;
    try {
      await mutateAsync({ deed: 'worked', run: mine.run, worked: { step, minutes, planned } });
      setText('');
      setProblem(undefined);
    } catch (error) {
      setProblem(words(error));
    }
  };
  return (
    <Box
      component='form'
      aria-label='Note a time'
      onSubmit={(event) => {
        event.preventDefault();
        if (good) void note();
      }}
      sx={{ mt: 2, display: 'grid', gridTemplateColumns: '1fr 108px 92px', gap: 1, alignItems: 'start' }}
    >
      {problem && (
        <Box sx={{ gridColumn: '1 / -1' }}>
          <NotDone problem={problem} onUnderstood={() => setProblem(undefined)} />
        </Box>
      )}
      <RunAndStep runs={runs} run={mine.run} step={step} onRun={setRun} onStep={setStep} />
      <PlainField
        label='Minutes'
        value={text}
        onChange={setText}
        problem={text.trim() !== '' && !good ? '1 to 6000' : undefined}
      />
      <Button type='submit' variant='outlined' disabled={!good || isPending} sx={{ gridColumn: '1 / -1' }}>
        Note the time
      </Button>
    </Box>
  );
}
