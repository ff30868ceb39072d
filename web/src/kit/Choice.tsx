import { MenuItem, TextField } from '@mui/material';

interface Props<T extends string> {
  label: string;
  value: T;
  options: readonly (readonly [T, string])[];
  onChange: (value: T) => void;
  width?: number | string;
  hideLabel?: boolean;
}

/** One of a few, in a drop-down. */
export function Choice<T extends string>({
  label,
  value,
  options,
  onChange,
  width = 180,
  hideLabel,
}: Props<T>) {
  return (
    <TextField
      select
      label={hideLabel ? undefined : label}
      value={value}
      onChange={(event) => onChange(event.target.value as T)}
      sx={{ width }}
      slotProps={{ inputLabel: { shrink: true }, select: { SelectDisplayProps: { 'aria-label': label } } }}
    >
      {options.map(([key, text]) => (
        <MenuItem key={key} value={key} dense>
          {text}
        </MenuItem>
      ))}
    </TextField>
  );
}
