import { Button, Menu, MenuItem } from '@mui/material';
import { useRef, useState } from 'react';
import { words } from '../api/client';
import type { JobState } from '../api/generated/schema';
import { useTakeTable } from '../api/hooks';
import { FileInput } from '../kit/FileInput';

const files = [
  ['datums.csv', 'Datum points, CSV'],
  ['readings.csv', 'Readings, CSV'],
  ['bay.glb', 'Bay, glTF'],
  ['bay.stl', 'Bay, STL'],
] as const;

/** The measuring as open files, out and in. */
export function Tables({ state }: { state: JobState }) {
  const [anchor, setAnchor] = useState<HTMLElement | null>(null);
  const [problem, setProblem] = useState<string>();
  const input = useRef<HTMLInputElement>(null);
  const what = useRef<'datums' | 'readings'>('datums');
  const datums = useTakeTable(state, 'datums');
  const readings = useTakeTable(state, 'readings');

  async function take(file: File) {
    setProblem(undefined);
    try {
      await (what.current === 'datums' ? datums : readings).mutateAsync(file);
    } catch (error) {
      setProblem(`${file.name}: ${words(error)}`);
    }
  }
  const choose = (which: 'datums' | 'readings') => {
    what.current = which;
    setAnchor(null);
    input.current?.click();
  };
  return (
    <>
      <Button variant='outlined' onClick={(event) => setAnchor(event.currentTarget)} aria-haspopup='menu'>
        Files…
      </Button>
      <Menu anchorEl={anchor} open={anchor !== null} onClose={() => setAnchor(null)}>
        {files.map(([file, name]) => (
          <MenuItem
            key={file}
            dense
            component='a'
            href={`/api/jobs/${state.id}/${file}`}
            download
            onClick={() => setAnchor(null)}
          >
            Save: {name}
          </MenuItem>
        ))}
        <MenuItem dense onClick={() => choose('datums')}>
          Take in: datum points, CSV
        </MenuItem>
        <MenuItem dense onClick={() => choose('readings')}>
          Take in: readings, CSV
        </MenuItem>
      </Menu>
      <FileInput
        ref={input}
        label='Table to take in'
        accept='.csv,.txt,.tsv,text/csv,text/plain,text/tab-separated-values'
        onFile={(file) => void take(file)}
      />
      {problem && (
        <span role='alert' style={{ fontSize: 13, color: '#b3321b' }}>
          {problem}
        </span>
      )}
    </>
  );
}
