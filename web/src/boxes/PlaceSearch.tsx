import { Box, Button, ButtonBase, LinearProgress } from '@mui/material';
import { useEffect, useRef, useState } from 'react';
import type { ComponentWorkup, Edit, JobState, PlaceOffer } from '../api/generated/schema';
import { lookForPlaces, type PlaceSearch as Search } from '../api/places';
import { length, sentence, useBench } from '../kit/bench';
import type { Drawing } from '../kit/useDrawing';
import { token } from '../theme';

interface Props {
  state: JobState;
  component: ComponentWorkup;
  drawing: Drawing;
}

/** Where else it might stand: looked for on request, each place drawn in the bay when pointed at. */
export function PlaceSearch({ state, component, drawing }: Props) {
  const [search, setSearch] = useState<Search>();
  const stop = useRef<() => void>(undefined);
  // What was found is of the job as it was: where it stands and what is clear may be otherwise now.
  // biome-ignore lint/correctness/useExhaustiveDependencies: another revision makes it stale
  useEffect(() => {
    setSearch(undefined);
    return () => stop.current?.();
  }, [state.revision]);
  const look = () => {
    stop.current?.();
    stop.current = lookForPlaces(state.id, component.component, setSearch);
  };
  const offers = search?.found?.offers ?? search?.early ?? [];
  const looking = search?.share !== undefined;
  return (
    <Box sx={{ my: 1 }}>
      <Box sx={{ display: 'flex', alignItems: 'center', gap: 1 }}>
        <Button
          variant='contained'
          onClick={look}
          disabled={looking}
          sx={{ whiteSpace: 'nowrap', flexShrink: 0 }}
        >
          {search ? 'Look again' : 'Place it'}
        </Button>
        <Box role='status' sx={{ fontSize: 13.5, color: token.inkSoft, lineHeight: 1.3 }}>
          {!search && 'looks through what it may be moved by, for its rules and its pipes'}
          {looking && `${offers.length || 'no'} places so far`}
          {search?.found && `${offers.length} places, of ${search.found.judged} judged`}
          {search?.found?.stopped && '; the time was up before all was tried'}
        </Box>
        {looking && (
          <Button
            variant='text'
            sx={{ ml: 'auto' }}
            onClick={() => {
              stop.current?.();
              setSearch({ early: offers });
            }}
          >
            Call it off
          </Button>
        )}
      </Box>
      {looking && (
        <LinearProgress
          variant='determinate'
          value={(search?.share ?? 0) * 100}
          aria-label='How far the search is'
          sx={{ mt: 0.75 }}
        />
      )}
      {search?.problem && (
        <Box role='alert' sx={{ fontSize: 14, color: token.fouls, mt: 0.5 }}>
          {search.problem}
        </Box>
      )}
      <Box sx={{ display: 'grid', gap: '3px', mt: 0.75 }}>
        {offers.map((offer, index) => (
          <Card
            key={offer.settings.join()}
            offer={offer}
            rank={search?.found ? index + 1 : undefined}
            drawing={drawing}
          />
        ))}
      </Box>
    </Box>
  );
}

/** One place: pointing at it draws it, pressing takes it with the best ways of its pipes. */
function Card({ offer, rank, drawing }: { offer: PlaceOffer; rank: number | undefined; drawing: Drawing }) {
  const unit = useBench((bench) => bench.unit);
  const stands = !offer.edit;
  const show = () => offer.edit && drawing.propose(offer.edit);
  const take = () => {
    if (!offer.edit) return;
    const ways: Edit[] = offer.runs.flatMap(({ run, way }) =>
      way ? [{ step: 'route', edit: 'take_way', run, way }] : [],
    );
    const moves = offer.edit.step === 'together' ? offer.edit.edits : [offer.edit];
    void drawing.keep({ step: 'together', edits: [...moves, ...ways] });
  };
  return (
    <Box
      onMouseEnter={show}
      onMouseLeave={drawing.drop}
      sx={{
        bgcolor: token.sheet,
        border: stands ? `2px solid ${token.straw}` : `1px solid ${token.hairline}`,
        '&:hover': { borderColor: token.dye },
      }}
    >
      <ButtonBase
        disabled={stands}
        onClick={take}
        onFocus={show}
        onBlur={drawing.drop}
        sx={{
          width: '100%',
          display: 'grid',
          gridTemplateColumns: '1fr auto',
          gap: 1,
          textAlign: 'left',
          px: 1,
          py: 0.6,
        }}
      >
        <Box sx={{ fontSize: 13.5, lineHeight: 1.3 }}>
          <strong>
            {rank !== undefined && `${rank} `}
            {sentence(offer.name, unit)}
          </strong>
          <br />
          {sentence(offer.good, unit)}
          {offer.but && (
            <Box
              component='span'
              sx={{ display: 'block', color: offer.fouls > 0 ? token.fouls : token.tightText }}
            >
              {offer.fouls > 0 ? '■ ' : '▲ '}
              {sentence(offer.but, unit)}
            </Box>
          )}
        </Box>
        <Box sx={{ fontSize: 13, color: token.inkSoft, textAlign: 'right', whiteSpace: 'nowrap' }}>
          {offer.shown != null && (
            <>
              {(offer.shown * 100).toFixed(0)} % shown
              <br />
            </>
          )}
          {offer.length && (
            <>
              {length(offer.length, unit)} of pipe
              <br />
            </>
          )}
          {offer.hours != null && `${offer.hours.toFixed(1)} h`}
        </Box>
      </ButtonBase>
    </Box>
  );
}
