import { Box, Typography } from '@mui/material';
import type { DualUnitText, WeldWarning } from '../api/generated/schema';
import { sentence, type Unit } from '../kit/bench';
import { token } from '../theme';

interface Props {
  all: readonly DualUnitText[];
  unit: Unit;
  /** Whether they warn of a danger. */
  caution?: boolean;
}

/** What is to be minded, one under the other. */
export function Sentences({ all, unit, caution = false }: Props) {
  return (
    <Box
      component='ul'
      sx={{
        m: 0,
        mb: 1,
        pl: caution ? 1.25 : 2.25,
        listStyle: caution ? 'none' : undefined,
        borderLeft: caution ? `4px solid ${token.straw}` : 0,
        fontSize: 14,
        lineHeight: 1.35,
        '& li': { mb: 0.5 },
      }}
    >
      {all.map((one) => (
        <li key={one.mm}>{sentence(one, unit).replace(/\.?$/, '.')}</li>
      ))}
    </Box>
  );
}

/** What would make a bad weld. */
export function Warnings({ warnings, unit }: { warnings: readonly WeldWarning[]; unit: Unit }) {
  return warnings.map((one) => (
    <Typography
      key={one.words.mm}
      role='alert'
      variant='body2'
      sx={{
        mb: 1,
        px: 1.25,
        py: 0.5,
        bgcolor: token.foulsPaper,
        borderLeft: `4px solid ${token.fouls}`,
      }}
    >
      ■ {sentence(one.words, unit)}.
    </Typography>
  ));
}
