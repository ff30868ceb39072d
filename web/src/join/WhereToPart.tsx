import { Box, Button, Typography } from '@mui/material';
import { useState } from 'react';
import type { JobState, Measure, Parting, Workup } from '../api/generated/schema';
import { readLength } from '../api/hooks';
import { useApart } from '../api/useApart';
import { figure, length, sentence, useBench } from '../kit/bench';
import { Choice } from '../kit/Choice';
import { LookingBar } from '../kit/LookingBar';
import { TypedField } from '../kit/TypedField';
import type { Drawing } from '../kit/useDrawing';
import { token } from '../theme';

interface Props {
  state: JobState;
  workup: Workup;
  drawing: Drawing;
}

type School = 'fewest' | 'each_out';

/** The fewest joints more with which every part comes out, and is no longer than a bench holds. */
export function WhereToPart({ state, workup, drawing }: Props) {
  const unit = useBench((bench) => bench.unit);
  const { looked, look, callOff } = useApart('partings', state.revision);
  const [school, setSchool] = useState<School>('fewest');
  const [longest, setLongest] = useState<Measure>();
  const [shown, setShown] = useState<Parting>();
  const { found, share, problem } = looked ?? {};
  const ask = () => {
    const query = new URLSearchParams({ each_out: String(school === 'each_out') });
    if (longest) query.set('longest', String(longest.mm));
    look(`/api/jobs/${state.id}/runs/${workup.run}/partings?${query}`);
  };
  return (
    <Box
      component='section'
      aria-label='Where should it part'
      sx={{ mt: 1, pt: 0.75, borderTop: `1px solid ${token.hairline}` }}
    >
      <Typography variant='h2'>Where should it part?</Typography>
      <Box
        sx={{ display: 'grid', gridTemplateColumns: '1fr 104px auto', gap: 1, mt: 1, alignItems: 'center' }}
      >
        <Choice<School>
          label='Parts'
          width='100%'
          value={school}
          options={[
            ['fewest', 'fewest joints'],
            ['each_out', 'each on its own'],
          ]}
          onChange={setSchool}
        />
        <TypedField
          label='Longest part'
          width='100%'
          unit={unit}
          shown={longest ? figure(longest, unit) : ''}
          keep={async (text) => setLongest(text ? await readLength(text, unit) : undefined)}
        />
        <Button variant='outlined' onClick={ask} disabled={share !== undefined || !workup.totals}>
          Propose
        </Button>
      </Box>
      {share !== undefined && (
        <LookingBar share={share} label='How far the search for joints is' onCallOff={callOff} />
      )}
      {problem && (
        <Box role='alert' sx={{ fontSize: 14, color: token.fouls, mt: 0.5 }}>
          {problem}
        </Box>
      )}
      {found && (
        <Typography role='status' variant='body2' sx={{ mt: 0.5, color: token.inkSoft }}>
          {sentence(found.words, unit)}
        </Typography>
      )}
      <Box component='ol' aria-label='Ways to part it' sx={{ listStyle: 'none', m: 0, p: 0 }}>
        {found?.offers.map((offer) => (
          <Offer
            key={offer.words.mm}
            offer={offer}
            shown={offer === shown}
            onShow={(show) => {
              setShown(show ? offer : undefined);
              if (show) drawing.propose(offer.edit);
              else drawing.drop();
            }}
            onTake={() => void drawing.keep(offer.edit)}
          />
        ))}
      </Box>
    </Box>
  );
}

interface OfferProps {
  offer: Parting;
  shown: boolean;
  onShow: (show: boolean) => void;
  onTake: () => void;
}

/** One way to part it, to be looked at and taken. */
function Offer({ offer, shown, onShow, onTake }: OfferProps) {
  const unit = useBench((bench) => bench.unit);
  return (
    <Box
      component='li'
      sx={{
        border: `1px solid ${shown ? token.straw : token.hairline}`,
        bgcolor: token.sheet,
        mt: 0.75,
        px: 1,
        py: 0.75,
        fontSize: 14,
      }}
    >
      <Box sx={{ display: 'flex', justifyContent: 'space-between', gap: 1, alignItems: 'flex-start' }}>
        <strong>{sentence(offer.words, unit)}</strong>
        <Box sx={{ display: 'flex', flexShrink: 0, gap: 0.5 }}>
          <Button size='small' onClick={() => onShow(!shown)}>
            {shown ? 'Put it back' : 'Show it'}
          </Button>
          <Button size='small' variant='outlined' onClick={onTake}>
            Part it
          </Button>
        </Box>
      </Box>
      <Box component='ol' sx={{ m: 0, pl: 2.5, color: token.inkSoft }}>
        {offer.steps.map((step) => (
          <li key={step.name}>
            {step.name}: {sentence(step.words, unit)}
          </li>
        ))}
      </Box>
      <Box sx={{ color: token.inkSoft }}>
        Its longest part is {length(offer.longest, unit)} from end to end.
      </Box>
      {offer.cautions.map((caution) => (
        <Box key={caution.mm} sx={{ color: token.tightText }}>
          {sentence(caution, unit)}
        </Box>
      ))}
    </Box>
  );
}
