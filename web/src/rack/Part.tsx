import { Box, Typography } from '@mui/material';
import type { ReactNode } from 'react';
import { token } from '../theme';

interface Props {
  name: string;
  figure: string;
  children: ReactNode;
  /** Across all columns. */
  whole?: boolean;
}

/** One of the things that concern the whole vehicle. */
export function Part({ name, figure, children, whole }: Props) {
  return (
    <Box
      sx={{
        ...(whole ? { gridColumn: '1 / -1' } : {}),
        px: 3,
        py: 1.5,
        borderRight: `1px solid ${token.hairline}`,
        borderBottom: `1px solid ${token.hairline}`,
      }}
    >
      <Typography variant='h3' component='h2' sx={{ color: token.inkSoft }}>
        {name}
      </Typography>
      <Typography variant='h1' component='p' sx={{ fontSize: 22, color: token.dye, mb: 0.5 }}>
        {figure}
      </Typography>
      <Typography variant='body2' component='div' color='textSecondary' sx={{ lineHeight: 1.35 }}>
        {children}
      </Typography>
    </Box>
  );
}
