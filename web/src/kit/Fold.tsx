import { Box, ButtonBase, Typography } from '@mui/material';
import { type ReactNode, useState } from 'react';

interface Props {
  name: string;
  /** Said small beside the name. */
  aside: string;
  /** What a reader of screens calls it, where the name alone is too short. */
  label?: string;
  first?: boolean;
  children: ReactNode;
}

/** A part of the pad that is folded until it is wanted; what is in it is not there before. */
export function Fold({ name, aside, label, first = false, children }: Props) {
  const [open, setOpen] = useState(first);
  return (
    <Box component='section' aria-label={label ?? name} sx={{ mb: 0.75 }}>
      <ButtonBase
        aria-expanded={open}
        onClick={() => setOpen(!open)}
        sx={{ width: '100%', justifyContent: 'space-between', py: 0.25 }}
      >
        <Typography variant='h2' component='h3'>
          {name}
        </Typography>
        <Typography variant='body2' color='textSecondary'>
          {aside} {open ? '▴' : '▾'}
        </Typography>
      </ButtonBase>
      {open && children}
    </Box>
  );
}
