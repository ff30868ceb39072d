import { Box, Button, Menu, MenuItem } from '@mui/material';
import { useRef, useState } from 'react';
import { words } from '../api/client';
import { useTakeWorkshop } from '../api/workshop';
import { FileInput } from '../kit/FileInput';

/** The workshop as open files, out and in. */
export function ShelfFiles({ onProblem }: { onProblem: (problem: string) => void }) {
  const [anchor, setAnchor] = useState<HTMLElement | null>(null);
  const input = useRef<HTMLInputElement>(null);
  const what = useRef<'shelf' | 'workshop'>('shelf');
  const { mutateAsync } = useTakeWorkshop();
  const take = async (file: File) => {
    try {
      await mutateAsync({ what: what.current, file });
    } catch (error) {
      onProblem(`${file.name}: ${words(error)}`);
    }
  };
  const choose = (which: 'shelf' | 'workshop') => {
    what.current = which;
    setAnchor(null);
    input.current?.click();
  };
  const save = (href: string, name: string) => (
    <MenuItem dense component='a' href={href} download onClick={() => setAnchor(null)}>
      Save: {name}
    </MenuItem>
  );
  return (
    <Box sx={{ ml: 'auto' }}>
      <Button variant='outlined' onClick={(event) => setAnchor(event.currentTarget)} aria-haspopup='menu'>
        Files…
      </Button>
      <Menu anchorEl={anchor} open={anchor !== null} onClose={() => setAnchor(null)}>
        {save('/api/workshop/shelf.csv', 'shelf and what can be bought, CSV')}
        {save('/api/workshop/file', 'whole workshop, JSON')}
        <MenuItem dense onClick={() => choose('shelf')}>
          Take in: shelf, CSV; what is not in it goes
        </MenuItem>
        <MenuItem dense onClick={() => choose('workshop')}>
          Take in: whole workshop, JSON
        </MenuItem>
      </Menu>
      <FileInput
        ref={input}
        label='Shelf or workshop to take in'
        accept='.csv,.txt,.tsv,.json,text/csv,text/plain,application/json'
        onFile={(file) => void take(file)}
      />
    </Box>
  );
}
