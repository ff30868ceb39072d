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
        display: 'grid',
        gridTemplateColumns: '96px auto 1fr',
        alignItems: 'center',
        columnGap: 1.25,
        minHeight: 36,
        py: 0.25,
        borderTop: `1px solid ${token.hairline}`,
      }}
    >
      <Box sx={{ fontSize: 14 }}>{name}</Box>
      <Box sx={{ fontSize: 18, fontWeight: 700, whiteSpace: 'nowrap' }}>{children}</Box>
      <Box sx={{ fontSize: 13, color: token.inkSoft, textAlign: 'right', lineHeight: 1.25 }}>{aside}</Box>
    </Box>
  );
}
