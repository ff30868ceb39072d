import { Box, Typography } from '@mui/material';
import type { ClosingWorkup } from '../api/generated/schema';
import { length, sentence, type Unit } from '../kit/bench';
import { token } from '../theme';

/** The piece that is cut last, and by how much it is left long. */
export function Closing({ closing, unit }: { closing: ClosingWorkup; unit: Unit }) {
  return (
    <Box
      component='section'
      aria-label='Closing piece'
      sx={{ mt: 1.5, px: 1.25, py: 0.75, bgcolor: token.strawPaper, borderLeft: `4px solid ${token.straw}` }}
    >
      <Typography variant='h3'>{closing.name} closes the pipe</Typography>
      <Typography variant='body2'>{sentence(closing.words, unit)}</Typography>
      <Typography variant='body2' color='textSecondary' sx={{ mt: 0.5 }}>
        It takes up {length(closing.spread, unit)} either way, mostly{' '}
        {closing.causes
          .map((cause) => `${sentence(cause.what, unit)} (${length(cause.spread, unit)})`)
          .join(', ')}
        ; 95 of 100 pipes are long enough so.
      </Typography>
    </Box>
  );
}
