import { Box, Button, LinearProgress, Typography } from '@mui/material';
import { useQueryClient } from '@tanstack/react-query';
import { type ReactNode, useCallback, useEffect, useRef, useState } from 'react';
import type { JobState, Offer, Outcome, Workup } from '../api/generated/schema';
import { lookedForKey, lookForWays, type Search } from '../api/ways';
import { setting } from '../boxes/useComponent';
import { sentence, useBench } from '../kit/bench';
import type { Drawing } from '../kit/useDrawing';
import { token } from '../theme';
import { OfferCard } from './OfferCard';
import { Steer } from './Steer';
import { TruingList } from './TruingList';
import { useOrder, WeightsPad } from './WeightsPad';

interface Props {
  state: JobState;
  workup: Workup;
  drawing: Drawing;
}

const steps: Record<string, string> = {
  legs: 'Finding legs that are clear',
  ways: 'Bringing ways to their best',
  shapes: 'Trying other shapes',
  turns: 'Turning components',
  fittings: 'Trying other fittings',
};

/** Ways round: what the builder asks, a search that can be called off, and what it found, ranked by their own weights. */
export function WaysStage({ state, workup, drawing }: Props) {
  const unit = useBench((bench) => bench.unit);
  const [search, setSearch] = useState<Search>();
  const stop = useRef<() => void>(undefined);
  const look = useCallback(() => {
    stop.current?.();
    stop.current = lookForWays(state.id, workup.run, setSearch);
  }, [state.id, workup.run]);
  const wishes = JSON.stringify(workup.decisions.wishes ?? {});
  // biome-ignore lint/correctness/useExhaustiveDependencies: what is asked changes what is found
  useEffect(() => {
    look();
    return () => stop.current?.();
  }, [look, wishes]);
  const cache = useQueryClient();
  const over = search !== undefined && search.progress === undefined;
  // biome-ignore lint/correctness/useExhaustiveDependencies: how it stands changes when it begins and when it is over
  useEffect(() => void cache.invalidateQueries({ queryKey: lookedForKey }), [over]);
  const { order, weights, setWeights } = useOrder(state, workup.run, search?.found);
  const offers = search?.found?.offers ?? search?.early ?? [];
  const sorted = search?.found && order ? order.flatMap((index) => offers[index] ?? []) : offers;
  const fits = sorted.filter((offer) => offer.short.length === 0);
  const mouthsOnly = (offer: Offer) => offer.short.every((short) => short.mouth != null);
  const mouths = sorted.filter((offer) => offer.short.length > 0 && mouthsOnly(offer));
  const shorts = sorted.filter((offer) => !mouthsOnly(offer));
  const found = search?.found;
  const taken = JSON.stringify(workup.decisions.route.course);
  const card = (offer: Offer, index: number) => (
    <OfferCard
      key={`${offer.name} ${offer.figures.length.mm}`}
      offer={offer}
      rank={offer.short.length === 0 ? index + 1 : undefined}
      taken={JSON.stringify(offer.way.course) === taken}
      run={workup.run}
      drawing={drawing}
    />
  );
  return (
    <>
      <Steer workup={workup} drawing={drawing} />
      <TruingList state={state} run={workup.run} drawing={drawing} />
      {search?.progress ? (
        <Box sx={{ my: 1 }}>
          <Box sx={{ display: 'flex', alignItems: 'baseline', justifyContent: 'space-between' }}>
            <Typography variant='body2' role='status'>
              {steps[search.progress.step] ?? 'Looking'}
              {search.early.length > 0 && `, ${search.early.length} fit so far`}
            </Typography>
            <Button
              variant='text'
              onClick={() => {
                stop.current?.();
                setSearch({ early: search.early });
              }}
            >
              Call it off
            </Button>
          </Box>
          <LinearProgress
            variant='determinate'
            value={search.progress.share * 100}
            aria-label='How far the search is'
          />
        </Box>
      ) : (
        <Box sx={{ display: 'flex', alignItems: 'baseline', gap: 1, my: 0.5 }}>
          <Typography variant='h2' component='h2' sx={{ whiteSpace: 'nowrap' }}>
            {heading(fits.length, mouths.length, found?.outcome)}
          </Typography>
          {search?.found && (
            <Typography variant='body2' color='textSecondary'>
              of {search.found.judged} judged
            </Typography>
          )}
          <Button variant='text' sx={{ ml: 'auto', whiteSpace: 'nowrap' }} onClick={look}>
            Look again
          </Button>
        </Box>
      )}
      {search?.problem && (
        <Typography role='alert' variant='body2' sx={{ color: token.fouls }}>
          {search.problem}
        </Typography>
      )}
      {found?.cautions.map((caution) => (
        <Notice key={caution.mm} role='alert'>
          {sentence(caution, unit)}
        </Notice>
      ))}
      {found &&
        (found.outcome === 'closed' || found.outcome === 'nothing_found' || found.outcome === 'stopped') && (
          <Notice>{sentence(found.said, unit)}</Notice>
        )}
      {search?.found?.give.map((give) => (
        <Notice key={give.words.mm}>
          {sentence(give.words, unit)}
          {give.offer.turn && (
            <Button
              variant='contained'
              sx={{ mt: 0.75 }}
              onClick={() => {
                const { turn } = give.offer;
                if (!turn) return;
                void drawing.keep({
                  step: 'together',
                  edits: [
                    setting(turn.component, turn.freedom, turn.turned),
                    { step: 'route', edit: 'take_way', run: workup.run, way: give.offer.way },
                  ],
                });
              }}
            >
              Turn it and take that way
            </Button>
          )}
        </Notice>
      ))}
      {search?.found && fits.length > 1 && <WeightsPad weights={weights} onChange={setWeights} />}
      <Box component='section' aria-label='Ways round' sx={{ display: 'grid', gap: 0.6 }}>
        {fits.map(card)}
      </Box>
      {mouths.length > 0 && (
        <Box
          component='section'
          aria-label='Ways that fit but for the mouths'
          sx={{ display: 'grid', gap: 0.6 }}
        >
          <Typography variant='body2' color='textSecondary'>
            These fit, but for what the mouths themselves stand too near to:
          </Typography>
          {mouths.map(card)}
        </Box>
      )}
      {shorts.length > 0 && (
        <Box
          component='section'
          aria-label='Ways that do not fit'
          sx={{ display: 'grid', gap: 0.6, mt: 1.25 }}
        >
          <Typography variant='body2' color='textSecondary'>
            These do not fit, and why:
          </Typography>
          {shorts.map(card)}
        </Box>
      )}
    </>
  );
}

function heading(fit: number, mouths: number, outcome: Outcome | undefined) {
  if (fit > 0)
    return `${fit} ${fit === 1 ? 'way fits' : 'ways fit'}${outcome === 'fits_what_is_known' ? ' what is known' : ''}`;
  return mouths > 0 ? `${mouths} fit but for the mouths` : 'Nothing fits';
}

/** Something to know before a way is taken. */
function Notice({ children, role }: { children: ReactNode; role?: 'alert' }) {
  return (
    <Box
      role={role}
      sx={{
        borderLeft: `4px solid ${token.straw}`,
        bgcolor: token.tightPaper,
        fontSize: 14,
        lineHeight: 1.4,
        px: 1.25,
        py: 0.9,
        mb: 0.75,
      }}
    >
      {children}
    </Box>
  );
}
