import { InputAdornment, TextField } from '@mui/material';
import { useRef, useState } from 'react';
import { words } from '../api/client';

interface Props {
  label: string;
  /** What stands in the field when nobody is typing. */
  shown: string;
  unit: string;
  /** Reads and keeps the text; throws what is wrong with it, resolves to false when it was refused elsewhere. */
  keep: (text: string) => Promise<unknown>;
  width?: number | string | undefined;
  hideLabel?: boolean | undefined;
  /** Where the unit is said once for a whole column. */
  hideUnit?: boolean | undefined;
}

/** A field that is kept with Enter or by leaving it, and put back with Escape. */
export function TypedField({ label, shown, unit, keep, width = 128, hideLabel, hideUnit }: Props) {
  const [text, setText] = useState(shown);
  const [problem, setProblem] = useState<string>();
  // What was sent last, so that Enter and then leaving the field keep it once.
  const sent = useRef(shown);
  const [seen, setSeen] = useState(shown);
  if (shown !== seen) {
    // The value changed. What is being typed and was not sent stays; everything else shows the new value.
    const untouched = text === seen || text.trim() === sent.current;
    setSeen(shown);
    if (untouched) {
      sent.current = shown;
      setText(shown);
      setProblem(undefined);
    }
  }

  async function send() {
    const typed = text.trim();
    if (typed === sent.current) return;
    sent.current = typed;
    if (typed === shown) return setProblem(undefined);
    try {
      const kept = await keep(typed);
      setProblem(undefined);
      if (kept === false) putBack();
    } catch (error) {
      setProblem(words(error));
    }
  }

  function putBack() {
    sent.current = shown;
    setText(shown);
    setProblem(undefined);
  }

  return (
    <TextField
      label={hideLabel ? undefined : label}
      value={text}
      error={problem !== undefined}
      helperText={problem}
      onChange={(event) => setText(event.target.value)}
      onBlur={() => void send()}
      onKeyDown={(event) => {
        if (event.key === 'Enter') void send();
        if (event.key === 'Escape' && text !== shown) {
          putBack();
          event.stopPropagation();
        }
      }}
      sx={{ width }}
      slotProps={{
        htmlInput: { 'aria-label': label, autoComplete: 'off', spellCheck: false },
        input: {
          endAdornment: hideUnit ? undefined : (
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
