import { Box, Dialog, DialogContent, DialogTitle } from '@mui/material';
import { token } from '../theme';

type Keys = readonly (readonly [string, string])[];

export const rackKeys: Keys = [
  ['↑ ↓', 'walk along the runs'],
  ['Enter', 'into the run'],
  ['Alt ↑ ↓', 'hang the run higher or lower'],
  ['a', 'add a run'],
  ['1', 'measure the bay'],
  ['u  U', 'undo, redo'],
  ['?', 'this list'],
];

export const stockKeys: Keys = [
  ['0', 'back to the rack'],
  ['Esc', 'the cuts away'],
  ['?', 'this list'],
];

export const benchKeys: Keys = [
  ['← →', 'walk along the rod'],
  ['Shift ← →', 'straight 1 mm shorter or longer; with Alt 5 mm'],
  ['[ ]', 'bend 1° less or more'],
  ['1 to 4', 'step: Measure, Route, Join, Cut'],
  ['Shift, Alt, Ctrl', 'held while dragging: snap to whole degrees, elbow angles, level and plumb'],
  ['n', 'next finding, seen free'],
  ['0', 'back to the rack'],
  ['e b o l', 'bay: show or hide engine, body, other runs, names'],
  ['p', 'bay: roll the engine to and fro'],
  ['d', 'bay: distance between two things'],
  ['f', 'bay: the whole pipe in view'],
  ['u  U', 'undo, redo'],
  ['Esc', 'the whole run'],
  ['?', 'this list'],
];

/** The list of keys. */
export function KeysDialog({ keys, open, onClose }: { keys: Keys; open: boolean; onClose: () => void }) {
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
