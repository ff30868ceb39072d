import { Box, Button, Typography } from '@mui/material';
import type { JobState, TruingOffer } from '../api/generated/schema';
import { useTruing } from '../api/hooks';
import { sentence, useBench } from '../kit/bench';
import type { Drawing } from '../kit/useDrawing';
import { token } from '../theme';

interface Props {
  state: JobState;
  run: number;
  drawing: Drawing;
}

/** Most offers that are shown. */
const MOST = 3;

/** What level, plumb and parallel would cost or save the way taken. */
export function TruingList({ state, run, drawing }: Props) {
  const truing = useTruing(state, run);
  if (!truing.data || truing.data.straights === 0) return null;
  const { already, straights, offers } = truing.data;
  return (
    <Box
      component='section'
      aria-label='Level, plumb, parallel'
      sx={{ mb: 1, pb: 0.75, borderBottom: `1px solid ${token.hairline}` }}
    >
      <Typography variant='body2' sx={{ mb: 0.5 }}>
        <strong>
          {already} of {straights}
        </strong>{' '}
        {straights === 1 ? 'straight runs' : 'straights run'} level, plumb or with the bonnet.
        {offers.length === 0 && already < straights && ' None of the others is nearly so.'}
      </Typography>
      {offers.slice(0, MOST).map((offer) => (
        <OfferLine key={offer.label.mm} offer={offer} onTake={() => void drawing.keep(offer.edit)} />
      ))}
    </Box>
  );
}

function OfferLine({ offer, onTake }: { offer: TruingOffer; onTake: () => void }) {
  const unit = useBench((bench) => bench.unit);
  return (
    <Box sx={{ fontSize: 13, lineHeight: 1.3, mb: 0.5, color: offer.spoils ? token.fouls : token.inkSoft }}>
      <Button
        variant='text'
        disabled={offer.spoils}
        onClick={onTake}
        sx={{ p: 0, mr: 0.75, fontSize: 13.5, lineHeight: 1.3, verticalAlign: 'baseline' }}
      >
        {sentence(offer.label, unit)}
      </Button>
      {offer.off.toFixed(1)}° off. {sentence(offer.price, unit)}
    </Box>
  );
}
