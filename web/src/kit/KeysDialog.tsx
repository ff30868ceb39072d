import { Box, Dialog, DialogContent, DialogTitle } from '@mui/material';
import { token } from '../theme';

const keys: [string, string][] = [
  ['← →', 'walk along the rod'],
  ['Shift ← →', 'straight 1 mm shorter or longer; with Alt 5 mm'],
  ['[ ]', 'bend 1° less or more'],
  ['1 to 4', 'step: Measure, Route, Join, Cut'],
  ['Shift, Alt, Ctrl', 'held while dragging: snap to whole degrees, elbow angles, level and plumb'],
  ['n', 'next finding'],
  ['u  U', 'undo, redo'],
  ['Esc', 'the whole run'],
  ['?', 'this list'],
];

/** The list of keys. */
export function KeysDialog({ open, onClose }: { open: boolean; onClose: () => void }) {
  return (
    <Dialog open={open} onClose={onClose} aria-labelledby='keys-title'>
      <DialogTitle id='keys-title'>Keys</DialogTitle>
      <DialogContent>
        <Box
          component='dl'
          sx={{ display: 'grid', gridTemplateColumns: 'auto 1fr', columnGap: 3, rowGap: 1, m: 0 }}
        >
          {keys.map(([key, does]) => (
            <Box key={key} sx={{ display: 'contents' }}>
              <Box component='dt' sx={{ fontWeight: 700, borderBottom: `1px solid ${token.hairline}` }}>
                {key}
              </Box>
              <Box component='dd' sx={{ m: 0, borderBottom: `1px solid ${token.hairline}` }}>
                {does}
              </Box>
            </Box>
          ))}
        </Box>
      </DialogContent>
    </Dialog>
  );
}
