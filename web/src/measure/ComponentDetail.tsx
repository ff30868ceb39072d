import { Box, Button, Typography } from '@mui/material';
import type { BayWorkup, ComponentWorkup, PortRef } from '../api/generated/schema';
import { Choice } from '../kit/Choice';
import { NumberField } from '../kit/NumberField';
import type { Drawing } from '../kit/useDrawing';
import { token } from '../theme';
import { NameField } from './NameField';
import { PointFields } from './PointFields';
import { TurnField } from './TurnField';

interface ComponentProps {
  bay: BayWorkup;
  component: ComponentWorkup;
  drawing: Drawing;
}

const axes = {
  '1,0,0': 'along the car',
  '0,1,0': 'across the car',
  '0,0,1': 'upright',
} as const;
type AxisName = keyof typeof axes | 'own';

/** What turns on its bolts, and the ports on it. */
export function ComponentDetail({ bay, component, drawing }: ComponentProps) {
  type Change = { name?: string; pivot?: [number, number, number]; axis?: [number, number, number] } & {
    range?: ComponentWorkup['range'];
    ports?: PortRef[];
  };
  const set = (change: Change) =>
    drawing.keep({
      step: 'measure',
      edit: 'set_component',
      component: component.component,
      name: component.name,
      pivot: component.pivot.map((c) => c.mm) as [number, number, number],
      axis: component.axis,
      range: component.range,
      ports: component.ports,
      ...change,
    });
  const { range } = component;
  const said = component.axis.join(',');
  const axis: AxisName = said in axes ? (said as AxisName) : 'own';
  const key = (port: PortRef) => `${port.run} ${port.end}`;
  const free = bay.ports.filter((port) => port.component == null);
  return (
    <Box sx={{ px: 1, pb: 1.25, borderLeft: `4px solid ${token.straw}`, bgcolor: token.paper }}>
      <TurnField component={component} drawing={drawing} />
      <Box sx={{ mt: 1.5 }}>
        <NameField label='What it is' value={component.name} onKeep={(name) => set({ name })} />
      </Box>
      <PointFields
        label='on its axis'
        at={component.pivot.map((c) => c.mm) as [number, number, number]}
        onKeep={(pivot) => set({ pivot })}
      />
      <Box sx={{ display: 'grid', gridTemplateColumns: '1fr 1fr', gap: 1, mt: 1.25 }}>
        <Choice<AxisName>
          label='Axis runs'
          width='100%'
          value={axis}
          options={[
            ...(Object.entries(axes) as [AxisName, string][]),
            ...(axis === 'own' ? ([['own', 'as it was said']] as [AxisName, string][]) : []),
          ]}
          onChange={(next) => {
            if (next !== 'own') void set({ axis: next.split(',').map(Number) as [number, number, number] });
          }}
        />
        <Choice<'freely' | 'steps'>
          label='It turns'
          width='100%'
          value={range.turns}
          options={[
            ['freely', 'freely'],
            ['steps', 'in steps'],
          ]}
          onChange={(turns) =>
            void set({
              range: turns === 'freely' ? { turns, from: -30, to: 30 } : { turns, step: 60, back: 1, on: 1 },
            })
          }
        />
      </Box>
      <Box sx={{ display: 'grid', gridTemplateColumns: '1fr 1fr 1fr', gap: 1, mt: 1.25 }}>
        {range.turns === 'freely' ? (
          <>
            <NumberField
              label='From'
              unit='°'
              width='100%'
              value={range.from}
              onKeep={(from) => set({ range: { ...range, from } })}
            />
            <NumberField
              label='To'
              unit='°'
              width='100%'
              value={range.to}
              onKeep={(to) => set({ range: { ...range, to } })}
            />
          </>
        ) : (
          <>
            <NumberField
              label='One step'
              unit='°'
              width='100%'
              value={range.step}
              onKeep={(step) => set({ range: { ...range, step } })}
            />
            <NumberField
              label='Steps back'
              unit=''
              digits={0}
              width='100%'
              value={range.back}
              onKeep={(back) => set({ range: { ...range, back } })}
            />
            <NumberField
              label='Steps on'
              unit=''
              digits={0}
              width='100%'
              value={range.on}
              onKeep={(on) => set({ range: { ...range, on } })}
            />
          </>
        )}
      </Box>
      <Typography variant='body2' sx={{ mt: 1 }}>
        Ports on it
      </Typography>
      {component.ports.map((port) => {
        const shown = bay.ports.find((one) => key(one.port) === key(port));
        return (
          <Box key={key(port)} sx={{ display: 'flex', fontSize: 14, alignItems: 'center' }}>
            {shown?.name}, {shown?.run_name}
            <Button
              variant='text'
              sx={{ ml: 'auto', p: 0, minWidth: 24 }}
              aria-label={`Take ${shown?.name} off ${component.name}`}
              onClick={() => void set({ ports: component.ports.filter((one) => key(one) !== key(port)) })}
            >
              ×
            </Button>
          </Box>
        );
      })}
      {free.length > 0 && (
        <Box sx={{ mt: 1 }}>
          <Choice
            label='Put a port on it'
            width='100%'
            value=''
            options={free.map((port) => [key(port.port), `${port.name}, ${port.run_name}`] as const)}
            onChange={(next) => {
              const port = free.find((one) => key(one.port) === next)?.port;
              if (port) void set({ ports: [...component.ports, port] });
            }}
          />
        </Box>
      )}
      <Button
        variant='text'
        onClick={() =>
          void drawing.keep({ step: 'measure', edit: 'remove_component', component: component.component })
        }
        sx={{ p: 0, mt: 1, color: token.fouls }}
      >
        Remove it
      </Button>
    </Box>
  );
}
