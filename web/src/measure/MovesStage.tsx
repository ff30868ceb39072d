import { Box, Button, Slider, ToggleButton, ToggleButtonGroup, Typography } from '@mui/material';
import type {
  BayWorkup,
  ComponentWorkup,
  JobState,
  MountKind,
  Mounts,
  PortRef,
} from '../api/generated/schema';
import { length, samePart, useBench } from '../kit/bench';
import { Choice } from '../kit/Choice';
import { LengthField } from '../kit/LengthField';
import { NumberField } from '../kit/NumberField';
import type { Drawing } from '../kit/useDrawing';
import { token } from '../theme';
import { NameField } from './NameField';
import { mountNames, options } from './names';
import { PointFields } from './PointFields';
import { ThingRow } from './ThingRow';
import { TurnField } from './TurnField';

interface Props {
  state: JobState;
  bay: BayWorkup;
  drawing: Drawing;
}

const firstMounts: Mounts = { kind: 'soft', from: [-400, 0, 0], to: [100, 0, 0] };

/** How the engine moves on its mounts, and what turns on its bolts. */
export function MovesStage({ state, bay, drawing }: Props) {
  const { selected, select } = useBench();
  const kept = state.job.mounts;
  const set = (mounts: Mounts | null) => drawing.keep({ edit: 'set_mounts', mounts });

  async function addComponent() {
    const id = state.job.next_id;
    const edit = {
      edit: 'add_component',
      name: 'component',
      pivot: [0, 0, 0],
      axis: [0, 0, 1],
      range: { turns: 'freely', from: -30, to: 30 },
      ports: [],
    } as const;
    if (await drawing.keep({ ...edit, pivot: [0, 0, 0], axis: [0, 0, 1], ports: [] })) {
      select({ part: 'component', component: id });
    }
  }

  return (
    <>
      <Typography variant='h2' component='h3'>
        Engine on its mounts
      </Typography>
      {kept ? (
        <MountFields bay={bay} kept={kept} onKeep={set} />
      ) : (
        <>
          <Typography variant='body2' sx={{ my: 1 }}>
            Nothing said yet: the engine is taken to stand still.
          </Typography>
          <Button variant='contained' onClick={() => void set(firstMounts)}>
            Say how it is mounted
          </Button>
        </>
      )}
      <Typography variant='h2' component='h3' sx={{ mt: 2, mb: 0.5 }}>
        Parts that turn on their bolts
      </Typography>
      <Box role='group' aria-label='Components' sx={{ mx: -1, borderBottom: `1px solid ${token.hairline}` }}>
        {bay.components.map((component) => {
          const open = samePart(selected, { part: 'component', component: component.component });
          return (
            <Box key={component.component}>
              <ThingRow
                name={component.name}
                aside={`turned ${component.turned}°`}
                selected={open}
                onSelect={() => select({ part: 'component', component: component.component })}
              />
              {open && <ComponentDetail bay={bay} component={component} drawing={drawing} />}
            </Box>
          );
        })}
      </Box>
      <Button variant='contained' sx={{ mt: 1.25 }} onClick={() => void addComponent()}>
        Add a part that turns
      </Button>
    </>
  );
}

interface MountProps {
  bay: BayWorkup;
  kept: Mounts;
  onKeep: (mounts: Mounts | null) => Promise<boolean>;
}

function MountFields({ bay, kept, onKeep }: MountProps) {
  const { unit, roll, setRoll } = useBench();
  const { mounts } = bay;
  if (!mounts) return null;
  const [least = 0, most = 0] = mounts.rolls;
  const moving = bay.ports.filter((port) => port.travel);
  return (
    <>
      <ToggleButtonGroup
        exclusive
        size='small'
        value={kept.kind}
        aria-label='Mounts'
        onChange={(_, kind: MountKind | null) => {
          // Another kind brings its own figures.
          if (kind) void onKeep({ kind, from: kept.from, to: kept.to, crank: kept.crank ?? null });
        }}
        sx={{
          mt: 1,
          '& button': { textTransform: 'none', px: 2, py: 0.4, fontSize: 14, color: token.ink },
          '& button.Mui-selected, & button.Mui-selected:hover': { bgcolor: token.straw },
        }}
      >
        {options(mountNames).map(([kind, name]) => (
          <ToggleButton key={kind} value={kind}>
            {name}
          </ToggleButton>
        ))}
      </ToggleButtonGroup>
      <Typography variant='body2' color='textSecondary' sx={{ mt: 0.75, lineHeight: 1.3 }}>
        {mounts.reason}.
      </Typography>
      <Box sx={{ display: 'grid', gridTemplateColumns: '1fr 1fr', gap: 1, mt: 1.25 }}>
        <NumberField
          label='Roll under drive'
          unit='°'
          width='100%'
          value={mounts.roll}
          onKeep={(value) => onKeep({ ...kept, roll: value })}
        />
        <NumberField
          label='Roll on overrun'
          unit='°'
          width='100%'
          value={mounts.overrun}
          onKeep={(value) => onKeep({ ...kept, overrun: value })}
        />
        <Choice<'unsaid' | 'clockwise' | 'anticlockwise'>
          label='Crank, from the first point'
          width='100%'
          value={mounts.crank ?? 'unsaid'}
          options={[
            ['unsaid', 'nobody said'],
            ['clockwise', 'clockwise'],
            ['anticlockwise', 'anticlockwise'],
          ]}
          onChange={(crank) => void onKeep({ ...kept, crank: crank === 'unsaid' ? null : crank })}
        />
        <LengthField
          label='Shift any way'
          width='100%'
          value={mounts.shift}
          onKeep={(mm) => onKeep({ ...kept, shift: mm })}
        />
      </Box>
      <PointFields label='roll axis' at={kept.from} onKeep={(from) => onKeep({ ...kept, from })} />
      <PointFields label='also on it' at={kept.to} onKeep={(to) => onKeep({ ...kept, to })} />
      <Typography variant='body2' sx={{ mt: 1.25 }}>
        Show it rolled: <strong>{roll.toFixed(1)}°</strong>
      </Typography>
      <Box sx={{ px: 1 }}>
        <Slider
          size='small'
          aria-label='Engine shown rolled by'
          min={least}
          max={most}
          step={(most - least) / 40 || 0.1}
          marks={[{ value: 0 }]}
          value={Math.max(least, Math.min(most, roll))}
          onChange={(_, value) => setRoll(value as number)}
        />
      </Box>
      <Box
        component='ul'
        sx={{ listStyle: 'none', m: 0, p: 0, fontSize: 14 }}
        aria-label='How far mouths move'
      >
        {moving.map((port) => (
          <Box
            component='li'
            key={`${port.port.run} ${port.port.end}`}
            sx={{ display: 'flex', py: 0.25, borderTop: `1px solid ${token.hairline}` }}
          >
            <span>{port.name}</span>
            <Box component='strong' sx={{ ml: 'auto' }}>
              {port.travel && length(port.travel, unit)}
            </Box>
          </Box>
        ))}
      </Box>
      <Button variant='text' sx={{ p: 0, mt: 0.5 }} onClick={() => void onKeep(null)}>
        The engine stands still
      </Button>
    </>
  );
}

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

function ComponentDetail({ bay, component, drawing }: ComponentProps) {
  type Change = { name?: string; pivot?: [number, number, number]; axis?: [number, number, number] } & {
    range?: ComponentWorkup['range'];
    ports?: PortRef[];
  };
  const set = (change: Change) =>
    drawing.keep({
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
        onClick={() => void drawing.keep({ edit: 'remove_component', component: component.component })}
        sx={{ p: 0, mt: 1, color: token.fouls }}
      >
        Remove it
      </Button>
    </Box>
  );
}
