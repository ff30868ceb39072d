import { Box, Typography } from '@mui/material';
import type { BeadWorkup } from '../api/generated/schema';
import { length, sentence, type Unit } from '../kit/bench';
import { token } from '../theme';

/** Beads to roll, those first that nothing reaches later. */
export function Beads({ beads, unit }: { beads: BeadWorkup[]; unit: Unit }) {
  if (beads.length === 0) return null;
  const urgent = beads.some((bead) => bead.first);
  return (
    <Box
      component='section'
      aria-label='Beads'
      sx={{
        my: 1.25,
        px: 1.25,
        py: 0.75,
        bgcolor: token.sheet,
        border: `1px solid ${urgent ? token.straw : token.hairline}`,
      }}
    >
      <Typography variant='h3'>Beads for the hoses</Typography>
      <Box component='ul' sx={{ m: 0, pl: 2.25, fontSize: 15, lineHeight: 1.4 }}>
        {beads.map((bead) => (
          <li key={`${bead.piece} ${bead.end}`}>
            <strong>
              {bead.piece}, end towards {bead.end.toUpperCase()}
            </strong>
            : {length(bead.from_end, unit)} from it, {length(bead.height, unit)} high.{' '}
            {sentence(bead.words, unit)}
          </li>
        ))}
      </Box>
    </Box>
  );
}
