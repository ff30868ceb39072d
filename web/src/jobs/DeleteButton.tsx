import { Button } from '@mui/material';
import { useState } from 'react';

/** Deleting takes two presses, the second within reach of the first. */
export function DeleteButton({ name, onDelete }: { name: string; onDelete: () => void }) {
  const [asked, setAsked] = useState(false);
  return asked ? (
    <Button variant='contained' color='error' autoFocus onClick={onDelete} onBlur={() => setAsked(false)}>
      Really delete
    </Button>
  ) : (
    <Button variant='text' color='error' aria-label={`Delete ${name}`} onClick={() => setAsked(true)}>
      Delete
    </Button>
  );
}
