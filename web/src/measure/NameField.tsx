import { TextField } from '@mui/material';
import { useEffect, useState } from 'react';

interface Props {
  label: string;
  value: string;
  onKeep: (name: string) => unknown;
  /** The label is for readers of screens alone. */
  hideLabel?: boolean;
  most?: number;
}

/** A name, kept with Enter or by leaving the field; an empty one is put back. */
export function NameField({ label, value, onKeep, hideLabel, most = 80 }: Props) {
  const [text, setText] = useState(value);
  useEffect(() => setText(value), [value]);
  const keep = () => {
    if (text.trim() && text.trim() !== value) onKeep(text.trim());
    else setText(value);
  };
  return (
    <TextField
      label={hideLabel ? undefined : label}
      value={text}
      onChange={(event) => setText(event.target.value)}
      onBlur={keep}
      onKeyDown={(event) => event.key === 'Enter' && keep()}
      sx={{ width: hideLabel ? 128 : '100%' }}
      slotProps={{
        inputLabel: { shrink: true },
        htmlInput: { autoComplete: 'off', maxLength: most, ...(hideLabel && { 'aria-label': label }) },
      }}
    />
  );
}
