import { InputAdornment, TextField } from '@mui/material';
import { useEffect, useState } from 'react';
import { words } from '../api/client';
import type { Measure } from '../api/generated/schema';
import { readLength } from '../api/hooks';
import { figure, useBench } from './bench';

interface Props {
  label: string;
  value: Measure | undefined;
  /** Called with millimetres once the text has been read; resolves to false when the value is refused. */
  onKeep: (mm: number) => unknown;
  width?: number | string;
  hideLabel?: boolean;
  autoFocus?: boolean;
}

/** A length typed as people say it. Enter or leaving keeps it, Escape puts the old one back. */
export function LengthField({ label, value, onKeep, width = 128, hideLabel, autoFocus }: Props) {
  const unit = useBench((bench) => bench.unit);
  const shown = value ? figure(value, unit) : '';
  const [text, setText] = useState(shown);
  const [problem, setProblem] = useState<string>();
  useEffect(() => {
    setText(shown);
    setProblem(undefined);
  }, [shown]);

  async function keep() {
    if (text.trim() === shown) return setProblem(undefined);
    try {
      const read = await readLength(text, unit);
      setProblem(undefined);
      const kept = await onKeep(read.mm);
      if (kept === false) setText(shown);
      else setText(figure(read, unit));
    } catch (error) {
      setProblem(words(error));
    }
  }

  return (
    <TextField
      label={hideLabel ? undefined : label}
      value={text}
      error={problem !== undefined}
      helperText={problem}
      autoFocus={autoFocus ?? false}
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
        htmlInput: { 'aria-label': label, inputMode: 'text', autoComplete: 'off', spellCheck: false },
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
