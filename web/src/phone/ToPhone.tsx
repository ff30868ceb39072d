import { Button } from '@mui/material';
import { useState } from 'react';
import { token } from '../theme';
import { PairDialog } from './PairDialog';
import { useAsker } from './usePairing';

/** On the computer alone: opens what lets a phone in. */
export function ToPhone() {
  const asker = useAsker();
  const [open, setOpen] = useState(false);
  if (asker.data?.device !== null) return null;
  return (
    <>
      <Button
        onClick={() => setOpen(true)}
        sx={{ display: { xs: 'none', md: 'inline-flex' }, color: token.onInk, whiteSpace: 'nowrap' }}
      >
        To the phone
      </Button>
      {open && <PairDialog onClose={() => setOpen(false)} />}
    </>
  );
}
