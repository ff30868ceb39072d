import { Box, Button } from '@mui/material';
import { useState } from 'react';
import { Fold } from '../kit/Fold';
import { NumberField } from '../kit/NumberField';
import type { ShutIn } from './useWatch';

interface Props {
  bar: number;
  onShutIn: (on: ShutIn) => Promise<void>;
}

/** What the simulated gauge is shut in on; a real one needs none of this. */
export function GaugeStandIn({ bar, onShutIn }: Props) {
  const [on, setOn] = useState<ShutIn>({ bar, celsius: 24, leak: 0.005, warms: -0.2, faster: 20 });
  const field = (label: string, unit: string, key: keyof ShutIn, digits = 1) => (
    <NumberField
      label={label}
      unit={unit}
      digits={digits}
      value={on[key]}
      onKeep={(value) => setOn((before) => ({ ...before, [key]: value }))}
      width='100%'
    />
  );
  return (
    <Fold name='Simulated gauge' aside={`time goes ${on.faster} times as fast`} first>
      <Box sx={{ display: 'grid', gridTemplateColumns: '1fr 1fr', gap: 1.5, mt: 1.25, mb: 1 }}>
        {field('Shut in at', 'bar', 'bar', 2)}
        {field('Gas is', '°C', 'celsius')}
        {field('It leaks', 'bar/min', 'leak', 3)}
        {field('It warms', '°C/min', 'warms')}
        {field('Faster', 'times', 'faster', 0)}
        <Button variant='outlined' onClick={() => void onShutIn(on)}>
          Shut it in
        </Button>
      </Box>
    </Fold>
  );
}
