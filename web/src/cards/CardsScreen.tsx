import { Box, Button, Typography } from '@mui/material';
import { useQuery, useQueryClient } from '@tanstack/react-query';
import { useEffect, useMemo } from 'react';
import { Link } from 'react-router';
import { answered, server, words } from '../api/client';
import type { Done, JobState } from '../api/generated/schema';
import { useWorkup, workupsKey } from '../api/hooks';
import { useJobNews } from '../api/useJobNews';
import { rackAt, runAt } from '../head/steps';
import { sentence, useBench } from '../kit/bench';
import { TimeKeeper } from '../log/TimeKeeper';
import { token } from '../theme';
import { CardDesk } from './CardDesk';
import { note, useQueue, whenSent } from './deedQueue';
import { isDone } from './standing';

/** A run's bench cards: one act at a time, in the order of its list. */
export function CardsScreen({ state, run }: { state: JobState; run: number }) {
  const unit = useBench((bench) => bench.unit);
  const cache = useQueryClient();
  useJobNews(state.id);
  const queue = useQueue();
  const deck = useQuery({
    queryKey: [...workupsKey(state.id), 'cards', run, state.revision],
    queryFn: () =>
      answered(server.GET('/api/jobs/{id}/runs/{run}/cards', { params: { path: { id: state.id, run } } })),
    placeholderData: (before) => before,
  });
  useEffect(() => whenSent((job) => void cache.invalidateQueries({ queryKey: workupsKey(job) })), [cache]);
  const workup = useWorkup(state, run).data;
  const cards = useMemo(() => deck.data?.cards ?? [], [deck.data]);
  useEffect(() => {
    document.title = `${deck.data?.mark ?? ''} cards · ${state.job.name} · Nook Bend`;
  }, [deck.data, state.job.name]);
  const keep = (done: Done | null | undefined) => done && void note(state.id, done);
  return (
    <CardDesk
      mark={deck.data?.mark ?? ''}
      name={deck.data?.name ?? ''}
      cards={cards}
      done={cards.map((card) => isDone(card, queue.waiting, state.id))}
      notice={
        workup && cards.length > 0 ? (
          <TimeKeeper job={state.id} workup={workup} step='cut' onNote={(done) => note(state.id, done)} />
        ) : undefined
      }
      home={{ to: rackAt(state.id), name: 'Rack' }}
      onDo={(at, otherwise) => keep(otherwise?.what ?? cards[at]?.does)}
      onUndo={(at) => keep(cards[at]?.undoes)}
      none={
        deck.isError && !deck.data ? (
          <Typography role='alert' sx={{ p: 2, color: token.fouls }}>
            {words(deck.error)}
          </Typography>
        ) : (
          deck.data?.none && (
            <Box sx={{ p: 2 }}>
              <Typography sx={{ fontSize: 19, mb: 2 }}>{sentence(deck.data.none, unit)}</Typography>
              <Button variant='main' component={Link} to={runAt(state.id, run, 'cut')}>
                To the run
              </Button>
            </Box>
          )
        )
      }
    />
  );
}
