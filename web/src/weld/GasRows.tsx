import { Box, Button, Typography } from '@mui/material';
import { useState } from 'react';
import type { GasWorkup, WeldSectionWorkup } from '../api/generated/schema';
import { sentence, type Unit } from '../kit/bench';
import { Fold } from '../kit/Fold';
import { PlainField } from '../kit/PlainField';
import { Row } from '../kit/Row';
import { timeText } from './words';

interface Props {
  gas: GasWorkup;
  sections: readonly WeldSectionWorkup[];
  unit: Unit;
  onRead: (bar: number) => Promise<unknown>;
}

/** The gas it takes, what the bottle has, and how it is let into the pipe. */
export function GasRows({ gas, sections, unit, onRead }: Props) {
  const [text, setText] = useState('');
  const bar = Number(text.replace(',', '.'));
  const good = text.trim() !== '' && bar >= 0 && bar <= 400;
  const purged = sections.filter((section) => section.purge);
  return (
    <Fold name='Gas' aside={`${gas.litres.toFixed(0)} l`}>
      <Row name='It takes' aside={`${gas.bar.toFixed(0)} bar of the bottle`}>
        {gas.litres.toFixed(0)} l
      </Row>
      <Row
        name='Bottle'
        aside={gas.left == null ? 'read it before and after' : `${gas.left.toFixed(0)} l in it`}
      >
        {gas.bottle == null ? 'not read' : `${gas.bottle.toFixed(0)} bar`}
      </Row>
      <Box
        component='form'
        sx={{ display: 'grid', gridTemplateColumns: '1fr auto', gap: 1, my: 1, alignItems: 'start' }}
        onSubmit={(event) => {
          event.preventDefault();
          if (!good) return;
          void onRead(bar);
          setText('');
        }}
      >
        <PlainField
          label='The gauge shows, bar'
          value={text}
          onChange={setText}
          problem={text.trim() !== '' && !good ? 'Type a number from 0 to 400' : undefined}
        />
        <Button type='submit' variant='outlined' disabled={!good}>
          Note it
        </Button>
      </Box>
      {purged.map(({ name, purge }) =>
        purge ? (
          <Box key={name} sx={{ mb: 1 }}>
            <Row
              name={`Fill ${name}`}
              aside={`${purge.litres.toFixed(2)} l, ${purge.volumes} times at ${purge.flow} l/min`}
            >
              {timeText(purge.seconds)}
            </Row>
            <Typography variant='body2'>
              {sentence(purge.vent, unit)}.{purge.dams ? ` ${sentence(purge.dams, unit)}.` : ''} Then{' '}
              {purge.oxygen.toFixed(0)} parts of oxygen in a million are left.
            </Typography>
          </Box>
        ) : null,
      )}
    </Fold>
  );
}
