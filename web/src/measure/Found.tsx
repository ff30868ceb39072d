import { Box, Typography } from '@mui/material';
import type { EstimateWorkup } from '../api/generated/schema';
import { sentence, useBench } from '../kit/bench';
import { token } from '../theme';

/** How good a place is, and what would help, in two lines. */
export function Found({ found }: { found: EstimateWorkup }) {
  const unit = useBench((bench) => bench.unit);
  const doubtful = found.readings.some((reading) => reading.suspect) || found.place === 'open';
  return (
    <Box
      sx={{
        borderLeft: `4px solid ${doubtful ? token.straw : found.place === 'readings' ? token.dye : token.hairline}`,
        pl: 1.25,
        py: 0.25,
        my: 0.75,
      }}
    >
      <Typography sx={{ fontSize: 15, fontWeight: 700, lineHeight: 1.3 }}>
        {sentence(found.verdict, unit)}
      </Typography>
      {found.help && (
        <Typography variant='body2' color='textSecondary' sx={{ lineHeight: 1.3 }}>
          {sentence(found.help.words, unit)}
        </Typography>
      )}
    </Box>
  );
}

/** A place as three figures. */
export function At({ at }: { at: FoundPlace }) {
  const unit = useBench((bench) => bench.unit);
  const text = at.map((c) => (unit === 'mm' ? c.mm_text : c.inch_text)).join('  ');
  return (
    <Box component='span' sx={{ fontSize: 12.5, color: token.inkSoft, whiteSpace: 'pre' }}>
      {text}
    </Box>
  );
}

type FoundPlace = readonly { mm_text: string; inch_text: string }[];
