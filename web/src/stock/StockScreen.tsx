import { Box, Button, Typography } from '@mui/material';
import { useEffect, useState } from 'react';
import { useNavigate } from 'react-router';
import { words } from '../api/client';
import type { ChainWorkup, Edit, ElbowPlan, JobState, SawnFrom, TubePlan } from '../api/generated/schema';
import { useKeep, useStockPlan } from '../api/hooks';
import { useSawn } from '../api/record';
import { useJobNews } from '../api/useJobNews';
import { Head } from '../head/Head';
import { rackAt } from '../head/steps';
import { sentence, useBench } from '../kit/bench';
import { ChangedElsewhere } from '../kit/ChangedElsewhere';
import { KeysDialog, stockKeys } from '../kit/KeysDialog';
import { NotDone } from '../kit/NotDone';
import { PrintDialog } from '../kit/PrintDialog';
import { useKeys } from '../kit/useKeys';
import { token } from '../theme';
import { Pies } from './Pies';
import { ShelfPad } from './ShelfPad';
import { StickBar } from './StickBar';
import { UseShelf } from './UseShelf';

/** The vehicle from the shelf: what is sawn from which stick, what is bought for it, and the shelf itself. */
export function StockScreen({ state }: { state: JobState }) {
  const plan = useStockPlan(state);
  const unit = useBench((bench) => bench.unit);
  const others = useJobNews(state.id);
  const go = useNavigate();
  const keep = useKeep(state.id);
  const [picked, setPicked] = useState<ChainWorkup>();
  const [problem, setProblem] = useState<string>();
  const [helping, setHelping] = useState(false);
  const [printing, setPrinting] = useState(false);
  const onEdit = (edit: Edit) => keep.mutate({ edit }, { onError: (error) => setProblem(words(error)) });
  const sawn = useSawn(state.id);
  const onSawn = (from: SawnFrom) =>
    sawn.mutate(from, {
      onError: (error) => setProblem(words(error)),
      onSuccess: () => setProblem(undefined),
    });
  const tubes = plan.data?.tubes ?? [];
  const longest = Math.max(1, ...tubes.flatMap((tube) => tube.sticks.map((stick) => stick.length.mm)));
  useEffect(() => {
    document.title = `From the shelf · ${state.job.name} · Nook Bend`;
  }, [state.job.name]);
  useKeys((event) => {
    switch (event.key) {
      case '0':
        go(rackAt(state.id));
        return true;
      case 'Escape':
        setPicked(undefined);
        return true;
      case '?':
        setHelping(true);
        return true;
    }
    return false;
  });
  return (
    <Box>
      <Head state={state} place='stock' onHelp={() => setHelping(true)} />
      <Box
        component='main'
        sx={{
          display: 'grid',
          gridTemplateColumns: { xs: '1fr', md: '1fr 400px' },
          minHeight: 'calc(100vh - 52px)',
        }}
      >
        <Box sx={{ px: { xs: 1.5, md: 3 }, py: 1.5, minWidth: 0 }}>
          <Box sx={{ display: 'flex', alignItems: 'baseline', gap: 1.5, flexWrap: 'wrap' }}>
            <Typography variant='h1'>From the shelf</Typography>
            <Typography variant='body2' color='textSecondary'>
              all that is not cut, squared end at the left
              {plan.data?.proven && tubes.length > 0 && '; proven the cheapest'}
            </Typography>
            {plan.data && tubes.length > 0 && (
              <Box sx={{ ml: 'auto', fontSize: 20, fontWeight: 700, color: token.dye }}>
                {plan.data.cost > 0 ? `${plan.data.cost.toFixed(2)} to buy` : 'nothing to buy'}
              </Box>
            )}
          </Box>
          {plan.isError && (
            <Typography role='alert' sx={{ py: 2, color: token.fouls }}>
              {plan.error.message}
            </Typography>
          )}
          {tubes.length > 0 && (
            <Box sx={{ display: 'flex', gap: 1, mt: 1 }}>
              <Button variant='contained' onClick={() => setPrinting(true)}>
                Print…
              </Button>
              <PrintDialog job={state.id} open={printing} onClose={() => setPrinting(false)} />
              <Button variant='outlined' href={`/api/jobs/${state.id}/stock.csv`}>
                Cuts by stick, CSV
              </Button>
              <Button variant='outlined' href={`/api/jobs/${state.id}/buying.csv`}>
                To buy, CSV
              </Button>
            </Box>
          )}
          <UseShelf state={state} onTake={onEdit} onProblem={setProblem} />
          {plan.data && tubes.length === 0 && plan.data.elbows.length + plan.data.pies.length === 0 && (
            <Typography sx={{ py: 2 }}>
              Nothing is left to saw: all is cut, or no pipe is sound yet.
            </Typography>
          )}
          {plan.data && plan.data.left_out.length > 0 && (
            <Box
              component='ul'
              aria-label='Not planned yet'
              sx={{ m: 0, mt: 1, px: 1.5, py: 0.75, listStyle: 'none', bgcolor: token.strawPaper }}
            >
              {plan.data.left_out.map((one) => (
                <li key={one.run}>{sentence(one.words, unit)}</li>
              ))}
            </Box>
          )}
          {plan.data && plan.data.elbows.length > 0 && <Elbows elbows={plan.data.elbows} onSawn={onSawn} />}
          {plan.data && plan.data.pies.length > 0 && <Pies pies={plan.data.pies} onSawn={onSawn} />}
          {tubes.map((tube) => (
            <Tube
              key={tube.what.mm}
              job={state.id}
              tube={tube}
              longest={longest}
              picked={picked}
              onPick={setPicked}
              onSawn={onSawn}
              onSplice={onEdit}
            />
          ))}
        </Box>
        <Box
          component='aside'
          aria-label='The shelf'
          sx={{ px: 2, py: 1.5, bgcolor: token.plate, borderLeft: { md: `1px solid ${token.hairline}` } }}
        >
          {problem && <NotDone problem={problem} onUnderstood={() => setProblem(undefined)} />}
          <ShelfPad state={state} tubes={tubes} scrap={plan.data?.scrap} onProblem={setProblem} />
        </Box>
      </Box>
      <ChangedElsewhere news={others} />
      <KeysDialog keys={stockKeys} open={helping} onClose={() => setHelping(false)} />
    </Box>
  );
}

/** Where the elbows come from. */
function Elbows({ elbows, onSawn }: { elbows: ElbowPlan[]; onSawn: (from: SawnFrom) => void }) {
  const unit = useBench((bench) => bench.unit);
  return (
    <Box component='section' aria-label='Elbows' sx={{ mt: 2 }}>
      <Typography variant='h2' sx={{ borderBottom: `2px solid ${token.ink}`, pb: 0.25 }}>
        Elbows
      </Typography>
      <Box component='ul' sx={{ listStyle: 'none', m: 0, p: 0 }}>
        {elbows.map((elbow) => (
          <Box
            component='li'
            key={`${elbow.run} ${elbow.piece}`}
            sx={{
              display: 'grid',
              gridTemplateColumns: '110px 1fr auto auto',
              gap: 1.5,
              alignItems: 'baseline',
              py: 0.75,
              borderBottom: `1px solid ${token.hairline}`,
            }}
          >
            <Source source={elbow.source} />
            <span>{sentence(elbow.what, unit)}</span>
            <span>
              <strong>{elbow.piece}</strong> {elbow.name}
            </span>
            <Button
              variant='text'
              sx={{ p: 0, minHeight: 0, fontSize: 13.5 }}
              aria-label={`${elbow.piece} is sawn of its elbow`}
              onClick={() => onSawn({ what: 'elbow', piece: { run: elbow.run, piece: elbow.id } })}
            >
              It is sawn
            </Button>
          </Box>
        ))}
      </Box>
    </Box>
  );
}

function Source({ source }: { source: ElbowPlan['source'] }) {
  switch (source.from) {
    case 'shelf':
      return <strong>E{source.elbow}</strong>;
    case 'bought':
      return <strong style={{ color: token.dye }}>Buy {source.price.toFixed(2)}</strong>;
    case 'nowhere':
      return <strong style={{ color: token.fouls }}>Not sold yet</strong>;
  }
}

interface TubeProps {
  job: number;
  tube: TubePlan;
  longest: number;
  picked: ChainWorkup | undefined;
  onPick: (chain: ChainWorkup | undefined) => void;
  onSawn: (from: SawnFrom) => void;
  onSplice: (edit: Edit) => void;
}

function Tube({ job, tube, longest, picked, onPick, onSawn, onSplice }: TubeProps) {
  const unit = useBench((bench) => bench.unit);
  const { splice } = tube;
  return (
    <Box component='section' aria-label={sentence(tube.what, unit)} sx={{ mt: 2 }}>
      <Box
        sx={{
          display: 'flex',
          alignItems: 'baseline',
          gap: 1.5,
          borderBottom: `2px solid ${token.ink}`,
          pb: 0.25,
        }}
      >
        <Typography variant='h2'>{sentence(tube.what, unit)}</Typography>
        <Box sx={{ ml: 'auto', fontWeight: 700 }}>{tube.cost > 0 ? tube.cost.toFixed(2) : ''}</Box>
      </Box>
      {!tube.proven && (
        <Typography variant='body2' sx={{ color: tube.found ? token.inkSoft : token.fouls, py: 0.25 }}>
          {sentence(tube.words, unit)}
        </Typography>
      )}
      {tube.spare && (
        <Typography variant='body2' sx={{ color: token.inkSoft, py: 0.25 }}>
          {sentence(tube.spare.words, unit)}
        </Typography>
      )}
      {splice && (
        <Button variant='outlined' onClick={() => onSplice(splice)}>
          Splice what is longer
        </Button>
      )}
      <Box component='ul' sx={{ listStyle: 'none', m: 0, p: 0 }}>
        {tube.sticks.map((stick, index) => (
          <StickBar
            // biome-ignore lint/suspicious/noArrayIndexKey: bought sticks have no name but their place
            key={index}
            job={job}
            stick={stick}
            longest={longest}
            picked={picked}
            onPick={onPick}
            onSawn={onSawn}
          />
        ))}
      </Box>
    </Box>
  );
}
