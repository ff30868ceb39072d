import { Box } from '@mui/material';
import { token } from '../theme';

/** Beyond this share of what a joint gives the bar is full. */
const FULL = 1.5;

/** How much of what it gives a joint takes: a bar with a mark at all of it, and the share in words. */
export function UseBar({ share, slim = false }: { share: number | null | undefined; slim?: boolean }) {
  const known = share ?? Number.POSITIVE_INFINITY;
  const over = known > 1;
  const tight = !over && known > 0.8;
  const colour = over ? token.fouls : tight ? token.straw : token.metalEdge;
  const text = Number.isFinite(known) ? `${Math.round(known * 100)} %` : 'held';
  return (
    <Box sx={{ display: 'flex', alignItems: 'center', gap: 1, width: slim ? 132 : '100%' }}>
      <Box
        aria-hidden
        sx={{
          position: 'relative',
          flex: 1,
          height: 8,
          bgcolor: token.tab,
          border: `1px solid ${token.hairline}`,
        }}
      >
        <Box
          sx={{
            position: 'absolute',
            inset: 0,
            width: `${(Math.min(known, FULL) / FULL) * 100}%`,
            bgcolor: colour,
          }}
        />
        <Box
          sx={{
            position: 'absolute',
            top: -3,
            bottom: -3,
            left: `${100 / FULL}%`,
            width: '2px',
            bgcolor: token.ink,
          }}
        />
      </Box>
      <Box
        component='span'
        sx={{
          minWidth: 48,
          textAlign: 'right',
          fontWeight: 700,
          fontSize: 15,
          color: over ? token.fouls : token.ink,
        }}
      >
        {text}
      </Box>
    </Box>
  );
}
