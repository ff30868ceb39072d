import { Box, Button, TextField } from '@mui/material';
import { useState } from 'react';
import type { JointChange, JointFigures, JointKind, JointPart, Workup } from '../api/generated/schema';
import { jointNames } from '../measure/names';

interface Props {
  workup: Workup;
  kind: JointKind;
  figures: JointFigures;
  name: string;
  onChange: (to: JointChange) => unknown;
}

const fields = [
  ['give_angle', 'Bends, °'],
  ['give_offset', 'Sideways, mm'],
  ['give_axial', 'Along, mm'],
  ['gap', 'Length between tubes, mm'],
  ['stands_out', 'Stands out, mm'],
  ['screw_out', 'Screw stands out, mm'],
  ['bar', 'Bears, bar'],
  ['celsius', 'Bears, °C'],
  ['price', 'Costs'],
] as const;

type Field = (typeof fields)[number][0];

/** A part that is not in the catalogue, by the figures on its label; what is left blank is as usual for its kind. */
export function OwnPart({ workup, kind, figures, name, onChange }: Props) {
  const now = figures.part;
  const [called, setCalled] = useState(now?.name ?? '');
  const [typed, setTyped] = useState<Partial<Record<Field, string>>>(() =>
    Object.fromEntries(fields.map(([field]) => [field, now?.[field] == null ? '' : String(now[field])])),
  );
  const [wrong, setWrong] = useState('');
  const keep = async () => {
    const figuresTyped: Partial<Record<Field, number>> = {};
    for (const [field, label] of fields) {
      const text = (typed[field] ?? '').trim().replace(',', '.');
      if (text === '') continue;
      if (!/^\d+(\.\d+)?$/.test(text)) return setWrong(`${label}: type a number, such as 12 or 2.5`);
      figuresTyped[field] = Number(text);
    }
    if (called.trim() === '') return setWrong('Give it a name, such as what its label says');
    setWrong('');
    const part: JointPart = { name: called.trim(), kind, od: workup.od.mm, ...figuresTyped };
    return onChange({ set: 'part', part });
  };
  return (
    <Box sx={{ display: 'grid', gridTemplateColumns: '1fr 1fr', gap: 1, py: 1 }}>
      <TextField
        label='Name'
        size='small'
        value={called}
        sx={{ gridColumn: '1 / -1' }}
        error={wrong !== ''}
        helperText={wrong || `A ${jointNames[kind].toLowerCase()} for this tube`}
        onChange={(event) => setCalled(event.target.value)}
        slotProps={{ htmlInput: { 'aria-label': `Name of the part of ${name}` } }}
      />
      {fields.map(([field, label]) => (
        <TextField
          key={field}
          label={label}
          size='small'
          value={typed[field] ?? ''}
          onChange={(event) => setTyped({ ...typed, [field]: event.target.value })}
          slotProps={{ inputLabel: { shrink: true }, htmlInput: { inputMode: 'decimal' } }}
        />
      ))}
      <Button variant='outlined' sx={{ gridColumn: '1 / -1' }} onClick={() => void keep()}>
        Use this part
      </Button>
    </Box>
  );
}
