import { Box, Slider, Typography } from '@mui/material';
import { useEffect, useState } from 'react';
import type { ComponentWorkup } from '../api/generated/schema';
import { NumberField } from '../kit/NumberField';
import type { Drawing } from '../kit/useDrawing';

interface Props {
  component: ComponentWorkup;
  drawing: Drawing;
}

/** Turns a component on its bolts: by hand with a preview, or typed. */
export function TurnField({ component, drawing }: Props) {
  const [turned, setTurned] = useState(component.turned);
  useEffect(() => setTurned(component.turned), [component.turned]);
  const edit = (value: number) => ({
    step: 'measure' as const,
    edit: 'turn_component' as const,
    component: component.component,
    turned: value,
  });
  const step = component.range.turns === 'steps' ? component.range.step : 0.5;
  return (
    <Box sx={{ mt: 1.25 }}>
      <Typography variant='body2'>
        {component.name}: turned on its bolts,{' '}
        {component.range.turns === 'steps' ? `in steps of ${step}°` : 'freely'} from {component.least}° to{' '}
        {component.most}°
      </Typography>
      <Box sx={{ display: 'grid', gridTemplateColumns: '1fr 104px', gap: 2, alignItems: 'center', pl: 1 }}>
        <Slider
          size='small'
          aria-label={`Turn of ${component.name}`}
          min={component.least}
          max={component.most}
          step={step}
          marks={component.range.turns === 'steps'}
          value={turned}
          onChange={(_, value) => {
            setTurned(value as number);
            drawing.propose(edit(value as number));
          }}
          onChangeCommitted={(_, value) => void drawing.keep(edit(value as number))}
        />
        <NumberField
          label={`Turn of ${component.name}, typed`}
          hideLabel
          unit='°'
          width={104}
          value={component.turned}
          onKeep={(value) => drawing.keep(edit(value))}
        />
      </Box>
    </Box>
  );
}
