import { InputAdornment, TextField } from '@mui/material';
import { useEffect, useState } from 'react';

interface Props {
  label: string;
  value: number;
  unit: string;
  digits?: number;
  onKeep: (value: number) => unknown;
  width?: number | string;
  hideLabel?: boolean;
}

/** A plain number with its unit, such as degrees. */
export function NumberField({ label, value, unit, digits = 1, onKeep, width = 128, hideLabel }: Props) {
  const shown = value.toFixed(digits).replace(/^-(0(\.0*)?)$/, '$1');
  const [text, setText] = useState(shown);
  const [problem, setProblem] = useState<string>();
  useEffect(() => {
    setText(shown);
    setProblem(undefined);
  }, [shown]);

  async function keep() {
    const typed = text.trim().replace(',', '.').replace(/°$/, '');
    if (typed === shown) return setProblem(undefined);
    if (!/^-?\d+(\.\d+)?$/.test(typed)) return setProblem(`Type a number, such as ${shown}`);
    setProblem(undefined);
    if ((await onKeep(Number(typed))) === false) setText(shown);
  }

  return (
    <TextField
      label={hideLabel ? undefined : label}
      value={text}
      error={problem !== undefined}
      helperText={problem}
      onChange={(event) => setText(event.target.value)}
      onBlur={() => void keep()}
      onKeyDown={(event) => {
        if (event.key === 'Enter') void keep();
        if (event.key === 'Escape') {
          setText(shown);
          setProblem(undefined);
          event.stopPropagation();
        }
      }}
      sx={{ width }}
      slotProps={{
        htmlInput: { 'aria-label': label, autoComplete: 'off' },
        input: {
          endAdornment: (
            <InputAdornment position='end' sx={{ ml: 0.25 }} disableTypography>
              {unit}
            </InputAdornment>
          ),
        },
        inputLabel: { shrink: true },
      }}
    />
  );
}
