import { Box } from '@mui/material';
import type { FindingCounts } from '../api/generated/schema';
import { severityLook } from '../kit/Findings';

/** How many findings there are of each sort. */
export function Counts({ counts }: { counts: FindingCounts }) {
  const each = [
    ['error', counts.errors],
    ['warning', counts.warnings],
  ] as const;
  return each.map(([severity, count]) => {
    const { word, shape, ink, paper, edge } = severityLook(severity);
    if (count === 0) return null;
    return (
      <Box
        key={severity}
        component='span'
        sx={{
          px: 1,
          color: ink,
          bgcolor: paper,
          border: `1px solid ${edge}`,
          fontSize: 13.5,
          fontWeight: 700,
          whiteSpace: 'nowrap',
        }}
      >
        {shape} {count} {word.toLowerCase()}
      </Box>
    );
  });
}
