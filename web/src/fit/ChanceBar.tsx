import { Box } from '@mui/material';
import { token } from '../theme';

/** How many of a hundred pipes made so land, as it is said: never all, and never none. */
export function inHundred(chance: number): string {
  const count = Math.round(chance * 100);
  if (count > 99) return 'over 99 of 100';
  if (count < 1) return 'under 1 of 100';
  return `${count} of 100`;
}

/** The chance to land as a bar of a hundred pipes; the straw end is what another way would add. */
export function ChanceBar({ chance, then }: { chance: number; then?: number | undefined }) {
  const gain = Math.max(0, (then ?? chance) - chance);
  return (
    <Box
      component='span'
      aria-hidden
      sx={{
        display: 'flex',
        flex: 1,
        minWidth: 60,
        height: 10,
        border: `1px solid ${token.metalEdge}`,
        bgcolor: token.sheet,
        // A mark at each ten.
        backgroundImage: `repeating-linear-gradient(90deg, transparent 0 calc(10% - 1px), ${token.hairline} calc(10% - 1px) 10%)`,
      }}
    >
      <Box component='span' sx={{ width: `${chance * 100}%`, bgcolor: token.dye }} />
      <Box component='span' sx={{ width: `${gain * 100}%`, bgcolor: token.straw }} />
    </Box>
  );
}
