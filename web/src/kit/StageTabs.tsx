import { Box, ButtonBase } from '@mui/material';
import type { ReactNode } from 'react';
import { headingFont, token } from '../theme';

interface Props<T extends string> {
  label: string;
  stages: readonly T[];
  names: Record<T, ReactNode>;
  now: T;
  onOpen: (stage: T) => void;
}

/** The parts of a step, along the top of the pad. */
export function StageTabs<T extends string>({ label, stages, names, now, onOpen }: Props<T>) {
  return (
    <Box
      component='nav'
      aria-label={label}
      sx={{ display: 'flex', mx: -2.25, mt: -1.75, mb: 1.25, borderBottom: `1px solid ${token.hairline}` }}
    >
      {stages.map((stage) => (
        <ButtonBase
          key={stage}
          onClick={() => onOpen(stage)}
          aria-current={now === stage ? 'step' : undefined}
          sx={{
            flex: '1 1 auto',
            px: 0.5,
            py: 0.9,
            fontFamily: headingFont,
            fontSize: 15.5,
            fontWeight: 600,
            color: now === stage ? token.ink : token.inkSoft,
            bgcolor: now === stage ? token.plate : token.tab,
            borderBottom: now === stage ? `3px solid ${token.straw}` : '3px solid transparent',
          }}
        >
          {names[stage]}
        </ButtonBase>
      ))}
    </Box>
  );
}
