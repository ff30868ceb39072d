import { Box } from '@mui/material';
import type { ReactNode } from 'react';
import { token } from '../theme';

interface Props {
  name: ReactNode;
  children: ReactNode;
  /** Said small at the right: the limit, or why. */
  aside?: ReactNode;
}

/** One line of the pad: what, how much, against what. */
export function Row({ name, children, aside }: Props) {
  return (
    <Box
      sx={{
        display: 'flex',
        // What is said small goes below where it has no room beside.
        flexWrap: 'wrap',
        alignItems: 'center',
        columnGap: 1.25,
        minHeight: 36,
        py: 0.25,
        borderTop: `1px solid ${token.hairline}`,
      }}
    >
      <Box sx={{ width: 96, fontSize: 14, lineHeight: 1.25 }}>{name}</Box>
      <Box sx={{ fontSize: 18, fontWeight: 700, whiteSpace: 'nowrap' }}>{children}</Box>
      <Box sx={{ ml: 'auto', fontSize: 13, color: token.inkSoft, textAlign: 'right', lineHeight: 1.25 }}>
        {aside}
      </Box>
    </Box>
  );
}
