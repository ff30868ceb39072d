import { Box, TextField } from '@mui/material';
import { useEffect, useState } from 'react';
import type { EndForm, Measure, Port, Side } from '../api/generated/schema';
import { Choice } from '../kit/Choice';
import { LengthField } from '../kit/LengthField';
import { NumberField } from '../kit/NumberField';
import { formNames, options, sideNames } from './names';

interface Props {
  /** Names the fields: `A` or `B`. */
  letter: string;
  port: Port;
  at: readonly (Measure | undefined)[];
  od: Measure | undefined;
  heading: number;
  pitch: number;
  onKeep: (port: Port) => unknown;
}

const axes = ['Forward x', 'Left y', 'Up z'] as const;

/** A port's decisions, each typed on its own. */
export function PortFields({ letter, port, at, od, heading, pitch, onKeep }: Props) {
  return (
    <Box sx={{ display: 'grid', gap: 1, pt: 1 }}>
      <NameField
        label={`Name of port ${letter}`}
        value={port.name}
        onKeep={(name) => onKeep({ ...port, name })}
      />
      <Box sx={{ display: 'grid', gridTemplateColumns: '1fr 1fr 1fr', gap: 1 }}>
        {axes.map((axis, index) => (
          <LengthField
            key={axis}
            label={`${axis}, ${letter}`}
            width='100%'
            value={at[index]}
            onKeep={(mm) => onKeep({ ...port, at: port.at.with(index, mm) as Port['at'] })}
          />
        ))}
      </Box>
      <Box sx={{ display: 'grid', gridTemplateColumns: '1fr 1fr 1fr', gap: 1 }}>
        <NumberField
          label={`Heading, ${letter}`}
          unit='°'
          width='100%'
          value={heading}
          onKeep={(typed) => onKeep({ ...port, out: { heading: typed, pitch } })}
        />
        <NumberField
          label={`Pitch, ${letter}`}
          unit='°'
          width='100%'
          value={pitch}
          onKeep={(typed) => onKeep({ ...port, out: { heading, pitch: typed } })}
        />
        <LengthField
          label={`Outside, ${letter}`}
          width='100%'
          value={od}
          onKeep={(mm) => onKeep({ ...port, od: mm })}
        />
      </Box>
      <Box sx={{ display: 'grid', gridTemplateColumns: '1fr 1fr', gap: 1 }}>
        <Choice<EndForm>
          label={`End form, ${letter}`}
          width='100%'
          value={port.form}
          options={options(formNames)}
          onChange={(form) => onKeep({ ...port, form })}
        />
        <Choice<Side>
          label={`Rides on, ${letter}`}
          width='100%'
          value={port.rides}
          options={options(sideNames)}
          onChange={(rides) => onKeep({ ...port, rides })}
        />
      </Box>
    </Box>
  );
}

function NameField({
  label,
  value,
  onKeep,
}: {
  label: string;
  value: string;
  onKeep: (name: string) => unknown;
}) {
  const [text, setText] = useState(value);
  useEffect(() => setText(value), [value]);
  const keep = () => {
    if (text.trim() && text.trim() !== value) onKeep(text.trim());
    else setText(value);
  };
  return (
    <TextField
      label={label}
      value={text}
      onChange={(event) => setText(event.target.value)}
      onBlur={keep}
      onKeyDown={(event) => event.key === 'Enter' && keep()}
      slotProps={{ inputLabel: { shrink: true }, htmlInput: { autoComplete: 'off', maxLength: 80 } }}
    />
  );
}
