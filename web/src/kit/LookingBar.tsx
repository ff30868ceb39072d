import { Box, Button, LinearProgress } from '@mui/material';

interface Props {
  /** 0 to 1. */
  share: number;
  /** What is looked for. */
  label: string;
  onCallOff: () => void;
}

/** How far a search is, and the end of it. */
export function LookingBar({ share, label, onCallOff }: Props) {
  return (
    <Box sx={{ display: 'flex', alignItems: 'center', gap: 1 }}>
      <LinearProgress variant='determinate' value={share * 100} aria-label={label} sx={{ flex: 1 }} />
      <Button variant='text' size='small' onClick={onCallOff} sx={{ whiteSpace: 'nowrap' }}>
        Call it off
      </Button>
    </Box>
  );
}
