import { Box, Button, ButtonBase, Typography } from '@mui/material';
import type { CorrectionWorkup, Edit, FitAct } from '../api/generated/schema';
import { sentence, type Unit } from '../kit/bench';
import { token } from '../theme';
import { ActPicture } from './ActPicture';
import { inHundred } from './ChanceBar';

interface Props {
  corrections: readonly CorrectionWorkup[];
  unit: Unit;
  busy: boolean;
  onDone: (act: FitAct) => Promise<boolean>;
  /** Lights the piece it is done to. */
  onShow: (act: FitAct) => void;
  /** Decides on another joint. */
  onTake: (edit: Edit) => void;
}

/** Ways to make it land, the cheapest first, each act as a mark on metal. */
export function Corrections({ corrections, unit, busy, onDone, onShow, onTake }: Props) {
  return corrections.map((way, at) => (
    <Box
      component='section'
      key={way.way}
      aria-label={way.way}
      sx={{
        mt: 1.25,
        p: 1,
        border: `1px solid ${at === 0 ? token.straw : token.hairline}`,
        bgcolor: at === 0 ? token.tightPaper : token.sheet,
      }}
    >
      <Box sx={{ display: 'flex', alignItems: 'baseline', justifyContent: 'space-between', gap: 1 }}>
        <Typography variant='h3'>{way.way}</Typography>
        <Box sx={{ fontSize: 16, fontWeight: 700 }}>{inHundred(way.chance)} land</Box>
      </Box>
      {way.edit != null && (
        <Button
          variant='outlined'
          size='small'
          disabled={busy}
          aria-label={`Take it: ${way.way}`}
          onClick={() => way.edit && onTake(way.edit)}
          sx={{ my: 0.5 }}
        >
          Take it
        </Button>
      )}
      <Box component='ol' sx={{ m: 0, p: 0, listStyle: 'none' }}>
        {way.acts.map((act, number) => (
          <Box
            component='li'
            key={act.words.mm}
            sx={{
              display: 'grid',
              gridTemplateColumns: '20px minmax(0, 1fr) auto',
              gap: 0.75,
              alignItems: 'center',
              py: 0.5,
              borderTop: number > 0 ? `1px solid ${token.hairline}` : 0,
            }}
          >
            <Box sx={{ fontWeight: 700, fontSize: 18 }}>{number + 1}</Box>
            <Box sx={{ fontSize: 15, lineHeight: 1.3 }}>
              <ActPicture act={act.act} />
              <ButtonBase
                sx={{ font: 'inherit', textAlign: 'left', display: 'inline' }}
                title='Show it in the bay and on the rod'
                onClick={() => onShow(act.act)}
              >
                {sentence(act.words, unit)}.
              </ButtonBase>
            </Box>
            <Button
              variant={at === 0 ? 'contained' : 'outlined'}
              size='small'
              // What is to be done with another joint is done once that is taken.
              disabled={busy || way.edit != null}
              aria-label={`Done: ${sentence(act.words, unit)}`}
              onClick={() => void onDone(act.act)}
            >
              Done
            </Button>
          </Box>
        ))}
      </Box>
      <Typography variant='body2' color='textSecondary'>
        {way.minutes > 0 && `${Math.round(way.minutes)} min, `}
        {way.broken > 0 && `${way.broken} ${way.broken === 1 ? 'tack' : 'tacks'} broken, `}
        joints take {Math.round(way.share * 100)} % at most then.
      </Typography>
    </Box>
  ));
}
