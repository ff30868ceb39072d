import { Box, Button, Typography } from '@mui/material';
import { useEffect, useState } from 'react';
import { words } from '../api/client';
import type { Done, WorkStep, Workup } from '../api/generated/schema';
import { useDeed } from '../api/record';
import { token } from '../theme';

interface Props {
  job: number;
  workup: Workup;
  step: WorkStep;
  /** Notes it otherwise than at once, as where there may be no connection. */
  onNote?: (done: Done) => Promise<unknown>;
}

/** What of a time is kept on this device: what was counted before, and since when it runs. */
interface Kept {
  counted: number;
  since?: number | undefined;
}

const MINUTE = 60_000;
/** A clock that was forgotten over night says nothing. */
const LONGEST = 12 * 60;

function read(key: string): Kept {
  try {
    const { counted, since } = JSON.parse(localStorage.getItem(key) ?? '{}');
    return { counted: Number(counted) || 0, since: Number(since) || undefined };
  } catch {
    return { counted: 0 };
  }
}

/** The clock of one step of a run: started, paused, and noted when it is stopped. It runs on while the page is away. */
export function TimeKeeper({ job, workup, step, onNote }: Props) {
  const key = `nook-bend time ${job} ${workup.run} ${step}`;
  const [kept, setKept] = useState(() => read(key));
  const [, tick] = useState(0);
  const [problem, setProblem] = useState<string>();
  const { mutateAsync, isPending } = useDeed(job);
  const keep = (next: Kept) => {
    setKept(next);
    localStorage.setItem(key, JSON.stringify(next));
  };
  useEffect(() => {
    if (kept.since === undefined) return;
    const timer = setInterval(() => tick((before) => before + 1), 10_000);
    return () => clearInterval(timer);
  }, [kept.since]);
  const minutes = kept.counted + (kept.since === undefined ? 0 : (Date.now() - kept.since) / MINUTE);
  const running = kept.since !== undefined;
  const planned = workup.totals?.labour.find((one) => one.step === step)?.minutes ?? 0;
  const stop = async () => {
    if (minutes > LONGEST) {
      setProblem(
        `The clock ran ${Math.round(minutes / 60)} h: it was forgotten. Say in the log how long it took.`,
      );
      keep({ counted: 0 });
      return;
    }
    try {
      const done: Done = { deed: 'worked', run: workup.run, worked: { step, minutes, planned } };
      await (onNote ?? mutateAsync)(done);
      keep({ counted: 0 });
      setProblem(undefined);
    } catch (error) {
      setProblem(words(error));
    }
  };
  return (
    <Box
      component='section'
      aria-label='Clock'
      sx={{
        display: 'flex',
        flexWrap: 'wrap',
        alignItems: 'center',
        gap: 1,
        py: 0.5,
        borderTop: `1px solid ${token.hairline}`,
      }}
    >
      <Typography variant='body2' sx={{ mr: 'auto' }}>
        {minutes >= 0.1 ? `${Math.round(minutes)} min on the clock` : 'Clock'}
        {planned > 0 && `, ${Math.round(planned)} planned`}
      </Typography>
      <Button
        size='small'
        variant='outlined'
        onClick={() => (running ? keep({ counted: minutes }) : keep({ counted: minutes, since: Date.now() }))}
      >
        {running ? 'Pause' : minutes >= 0.1 ? 'Go on' : 'Start'}
      </Button>
      {minutes >= 0.1 && (
        <Button size='small' variant='outlined' disabled={isPending} onClick={() => void stop()}>
          Stop and note it
        </Button>
      )}
      {problem && (
        <Typography role='alert' variant='body2' sx={{ width: '100%', color: token.fouls }}>
          {problem}
        </Typography>
      )}
    </Box>
  );
}
