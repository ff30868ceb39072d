import { TextField } from '@mui/material';

interface Props {
  label: string;
  value: string;
  onChange: (text: string) => void;
  placeholder?: string | undefined;
  /** What is wrong with it; nothing where nothing is. */
  problem?: string | undefined;
}

/** A field of text that is read when something is done with it; its label always stands above. */
export function PlainField({ label, value, onChange, placeholder, problem }: Props) {
  return (
    <TextField
      label={label}
      size='small'
      value={value}
      {...(placeholder ? { placeholder } : {})}
      error={problem !== undefined}
      helperText={problem}
      onChange={(event) => onChange(event.target.value)}
      slotProps={{ inputLabel: { shrink: true } }}
    />
  );
}
