import { Box, Button, Typography } from '@mui/material';
import { token } from '../theme';

/** Why the last edit was refused. */
export function NotDone({ problem, onUnderstood }: { problem: string; onUnderstood: () => void }) {
  return (
    <Box
      role='alert'
      sx={{ bgcolor: token.foulsPaper, borderLeft: `4px solid ${token.fouls}`, px: 1.25, py: 1, mb: 1.25 }}
    >
      <Typography variant='body2'>
        <strong>Not done.</strong> {problem}
      </Typography>
      <Button variant='text' onClick={onUnderstood} sx={{ p: 0 }}>
        Understood
      </Button>
    </Box>
  );
}
