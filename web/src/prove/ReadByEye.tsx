import { Box, Button } from '@mui/material';
import { useState } from 'react';
import type { GaugeReading } from '../api/generated/schema';
import { Fold } from '../kit/Fold';
import { PlainField } from '../kit/PlainField';

interface Props {
  /** The last reading. */
  from: GaugeReading | undefined;
  onRead: (reading: GaugeReading) => void;
}

const read = (text: string) => (text.trim() === '' ? Number.NaN : Number(text.replace(',', '.')));

/** A reading typed by hand, where no gauge answers. */
export function ReadByEye({ from, onRead }: Props) {
  const [minutes, setMinutes] = useState('0');
  const [bar, setBar] = useState('');
  const [celsius, setCelsius] = useState('');
  const reading = { seconds: read(minutes) * 60, bar: read(bar), celsius: read(celsius) };
  const after = from === undefined || reading.seconds > from.seconds;
  const good = Object.values(reading).every(Number.isFinite) && after;
  return (
    <Fold name='Read by eye' aside='minutes, bar and the gas’s warmth'>
      <Box
        component='form'
        onSubmit={(event) => {
          event.preventDefault();
          if (good) onRead(reading);
        }}
        sx={{
          display: 'grid',
          gridTemplateColumns: '1fr 1fr 1fr auto',
          gap: 1,
          mt: 1.25,
          alignItems: 'start',
        }}
      >
        <PlainField
          label='Minutes'
          value={minutes}
          onChange={setMinutes}
          problem={Number.isFinite(reading.seconds) && !after ? 'later' : undefined}
        />
        <PlainField label='Bar' value={bar} onChange={setBar} />
        <PlainField label='°C' value={celsius} onChange={setCelsius} />
        <Button type='submit' variant='outlined' disabled={!good}>
          Add
        </Button>
      </Box>
    </Fold>
  );
}
