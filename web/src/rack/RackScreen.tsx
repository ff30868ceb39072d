import { Box, Button, Typography } from '@mui/material';
import { useEffect, useRef, useState } from 'react';
import { useNavigate } from 'react-router';
import type { JobState } from '../api/generated/schema';
import { useRack } from '../api/hooks';
import { useJobNews } from '../api/useJobNews';
import { Head } from '../head/Head';
import { bayAt } from '../head/steps';
import { ChangedElsewhere } from '../kit/ChangedElsewhere';
import { KeysDialog, rackKeys } from '../kit/KeysDialog';
import { NotDone } from '../kit/NotDone';
import { useDrawing } from '../kit/useDrawing';
import { useKeys } from '../kit/useKeys';
import { useWidth } from '../kit/useWidth';
import { NewRunDialog } from '../measure/NewRunDialog';
import { token } from '../theme';
import { Begin } from './Begin';
import { Counts } from './Counts';
import { RackRow } from './RackRow';
import { reachOf } from './RackStick';
import { RunDialog } from './RunDialog';
import { StepHeads } from './StepBar';
import { Vehicle } from './Vehicle';

/** Narrower than this, px, it is a list. */
const NARROW = 900;
/** The thickest stick, px: its bends and their figures have room above and below it within its row. */
const THICK = 32;
/** What of a row is not its stick, px. */
const BESIDE_STICK = 56 + 216 + 430 + 3 * 16 + 2 * 24 + 4;

/** A job's first page: every run as a stick, how it stands and what is next; then the vehicle as a whole. */
export function RackScreen({ state }: { state: JobState }) {
  const go = useNavigate();
  const drawing = useDrawing(state, undefined);
  const others = useJobNews(state.id);
  const rack = useRack(state.id, state.revision);
  const [adding, setAdding] = useState(false);
  const [naming, setNaming] = useState<number>();
  const [helping, setHelping] = useState(false);
  const page = useRef<HTMLDivElement>(null);
  const width = useWidth(page, 1280);
  const narrow = width < NARROW;
  const runs = rack.data?.runs ?? [];
  const longest = Math.max(1, ...runs.map(({ rod }) => (rod ? reachOf(rod) : 0)));
  const thickest = Math.max(1, ...runs.map(({ rod }) => rod?.od ?? 0));
  const room = narrow ? width - 28 : width - BESIDE_STICK;
  const perMm = Math.min(room / longest, THICK / thickest);

  useEffect(() => {
    document.title = `${state.job.name} · Nook Bend`;
  }, [state.job.name]);

  const links = () => [...(page.current?.querySelectorAll<HTMLElement>('[data-run]') ?? [])];
  const focused = () => links().findIndex((link) => link.closest('li')?.contains(document.activeElement));
  const walk = (by: number) => {
    const now = focused();
    const all = links();
    all[now < 0 ? (by > 0 ? 0 : all.length - 1) : Math.min(all.length - 1, Math.max(0, now + by))]?.focus();
    return all.length > 0;
  };
  const place = (run: number, to: number) => {
    if (to >= 0 && to < state.job.runs.length) void drawing.keep({ step: 'job', edit: 'place_run', run, to });
  };
  const move = (by: number) => {
    const now = focused();
    const run = Number(links()[now]?.dataset.run);
    if (now < 0 || !run) return false;
    place(run, now + by);
    return true;
  };
  useKeys((event) => {
    const by = event.key === 'ArrowDown' ? 1 : event.key === 'ArrowUp' ? -1 : 0;
    if (by !== 0) return event.altKey ? move(by) : walk(by);
    switch (event.key) {
      case 'a':
        setAdding(true);
        return true;
      case '1':
        go(bayAt(state.id));
        return true;
      case 'u':
        drawing.undo();
        return true;
      case 'U':
        drawing.redo();
        return true;
      case '?':
        setHelping(true);
        return true;
    }
    return false;
  });

  const marks = new Map(runs.map((run) => [run.run, run.mark]));
  return (
    <Box ref={page}>
      <Head
        state={state}
        place='rack'
        onUndo={drawing.undo}
        onRedo={drawing.redo}
        onHelp={() => setHelping(true)}
      />
      <Box component='main'>
        <Box
          sx={{
            display: 'flex',
            flexWrap: 'wrap',
            alignItems: 'center',
            gap: 1.5,
            px: narrow ? 1.5 : 3,
            py: 1,
            minHeight: 56,
            borderBottom: `1px solid ${token.hairline}`,
          }}
        >
          {narrow && (
            <Typography sx={{ width: '100%', fontWeight: 700, overflowWrap: 'anywhere' }}>
              {state.job.name}
            </Typography>
          )}
          <Typography variant='h1'>{title(runs.length, rack.isPending)}</Typography>
          {runs.length > 0 && !narrow && (
            <Typography variant='body2' color='textSecondary'>
              to one scale, A at the left
            </Typography>
          )}
          {rack.data && <Counts counts={rack.data.counts} />}
          <Button
            variant={runs.length > 0 ? 'outlined' : 'text'}
            onClick={() => setAdding(true)}
            sx={{ ml: 'auto' }}
            title='New run (a)'
          >
            New run
          </Button>
          {!narrow && runs.length > 0 && (
            <Box sx={{ width: 430, alignSelf: 'flex-end', mb: -0.5 }}>
              <StepHeads />
            </Box>
          )}
        </Box>
        {drawing.problem && !adding && naming === undefined && (
          <Box sx={{ px: 3, py: 1 }}>
            <NotDone problem={drawing.problem} onUnderstood={drawing.clearProblem} />
          </Box>
        )}
        {rack.isError && (
          <Typography role='alert' sx={{ px: 3, py: 2, color: token.fouls }}>
            {rack.error.message}
          </Typography>
        )}
        {rack.data && runs.length === 0 && (
          <Begin state={state} begin={rack.data.vehicle.begin} onNewRun={() => setAdding(true)} />
        )}
        <Box component='ul' aria-label='Runs' sx={{ listStyle: 'none', m: 0, p: 0 }}>
          {runs.map((run) => (
            <RackRow
              key={run.run}
              state={state}
              run={run}
              twin={run.twin == null ? undefined : marks.get(run.twin)}
              perMm={perMm}
              narrow={narrow}
              onDo={(edit) => void drawing.keep(edit)}
              onName={() => setNaming(run.run)}
            />
          ))}
        </Box>
        {rack.data && runs.length > 0 && <Vehicle state={state} vehicle={rack.data.vehicle} />}
      </Box>
      <NewRunDialog
        state={state}
        open={adding}
        drawing={drawing}
        onClose={() => {
          setAdding(false);
          drawing.clearProblem();
        }}
        onAdded={(run) => go(`/jobs/${state.id}/runs/${run}/route`)}
      />
      {naming !== undefined && (
        <RunDialog
          state={state}
          run={naming}
          drawing={drawing}
          onPlace={place}
          onClose={() => {
            setNaming(undefined);
            drawing.clearProblem();
          }}
        />
      )}
      <ChangedElsewhere news={others} />
      <KeysDialog keys={rackKeys} open={helping} onClose={() => setHelping(false)} />
    </Box>
  );
}

function title(count: number, waiting: boolean): string {
  if (waiting) return 'The rack';
  return count === 0 ? 'An empty rack' : count === 1 ? 'One run' : `${count} runs`;
}
