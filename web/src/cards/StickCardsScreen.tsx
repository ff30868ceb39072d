import { Box, Button, Typography } from '@mui/material';
import { useQuery, useQueryClient } from '@tanstack/react-query';
import { useEffect } from 'react';
import { Link } from 'react-router';
import { answered, server, words } from '../api/client';
import type { JobState } from '../api/generated/schema';
import { workupsKey } from '../api/hooks';
import { workshopKey } from '../api/workshop';
import { stockAt } from '../head/steps';
import { sentence, useBench } from '../kit/bench';
import { token } from '../theme';
import { CardDesk, type Otherwise } from './CardDesk';
import { note, whenSent } from './deedQueue';
import { useStickInHand } from './useStickInHand';

/**
 * The cards of a stick of the shelf. The plan is made anew with every cut that is noted, so the cards that were begun
 * are kept on this device until the stick is put back: what is scribed on it does not change.
 */
export function StickCardsScreen({ state, stick }: { state: JobState; stick: number }) {
  const unit = useBench((bench) => bench.unit);
  const cache = useQueryClient();
  const { hand, take, letGo } = useStickInHand(state.id, stick);
  const begun = hand !== undefined && hand !== null;
  const planned = useQuery({
    queryKey: [...workupsKey(state.id), 'stick', stick, state.revision],
    enabled: hand === null,
    retry: false,
    queryFn: () =>
      answered(
        server.GET('/api/jobs/{id}/stock/sticks/{stick}/cards', {
          params: { path: { id: state.id, stick } },
        }),
      ),
  });
  useEffect(
    () =>
      whenSent((job) => {
        void cache.invalidateQueries({ queryKey: workupsKey(job) });
        void cache.invalidateQueries({ queryKey: workshopKey });
      }),
    [cache],
  );
  const deck = hand?.deck ?? planned.data;
  const cards = deck?.cards ?? [];
  const done = hand?.done ?? cards.map(() => false);
  useEffect(() => {
    document.title = `S${stick} cards · ${state.job.name} · Nook Bend`;
  }, [stick, state.job.name]);

  const tick = (at: number, otherwise?: Otherwise) => {
    const card = cards[at];
    if (!deck || !card) return;
    const what = otherwise?.what ?? card.does;
    const left = otherwise?.left ?? card.left?.mm;
    if (what && left !== undefined) void note(state.id, what, { stick, left });
    const ticked = done.with(at, true);
    // What is scrap is planned anew from what there is, and so is the rest of the stick.
    if (ticked.every(Boolean) || (otherwise && !otherwise.isCut)) letGo();
    else take({ deck, done: ticked, revision: hand?.revision ?? state.revision });
  };
  const undo = (at: number) => {
    const card = cards[at];
    if (!hand || !card) return;
    // What is off stays off: the stick is as long as the last of the others left it.
    const before =
      cards.findLast(({ left }, other) => left && other !== at && done[other])?.left ?? deck?.length;
    if (card.undoes && before) void note(state.id, card.undoes, { stick, left: before.mm });
    take({ ...hand, done: done.with(at, false) });
  };
  return (
    <CardDesk
      mark={`S${stick}`}
      name={deck ? sentence(deck.what, unit) : ''}
      cards={cards}
      done={done}
      home={{ to: stockAt(state.id), name: 'From the shelf' }}
      onDo={tick}
      onUndo={undo}
      notice={
        begun &&
        hand.revision !== state.revision && (
          <Box
            role='status'
            sx={{ px: 2, py: 1, fontSize: 15, bgcolor: token.tightPaper, color: token.tightText }}
          >
            The job was changed since this stick was begun: its marks may be old.{' '}
            <Button onClick={letGo} sx={{ p: 0, minHeight: 0 }}>
              Plan the rest of it anew
            </Button>
          </Box>
        )
      }
      none={
        (planned.isError || hand === null) && (
          <Box sx={{ p: 2 }}>
            {planned.isError && (
              <Typography role='alert' sx={{ fontSize: 19, mb: 2 }}>
                {words(planned.error)}
              </Typography>
            )}
            <Button variant='main' component={Link} to={stockAt(state.id)}>
              To the shelf
            </Button>
          </Box>
        )
      }
    />
  );
}
