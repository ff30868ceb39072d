import { Box, Button, ToggleButton, ToggleButtonGroup } from '@mui/material';
import type { BayWorkup, ComponentWorkup, InstallState, JobState, PortRef } from '../api/generated/schema';
import { sentence, useBench } from '../kit/bench';
import { Choice } from '../kit/Choice';
import { severityLook } from '../kit/Findings';
import { Fold } from '../kit/Fold';
import { LengthField } from '../kit/LengthField';
import { NumberField } from '../kit/NumberField';
import type { Drawing } from '../kit/useDrawing';
import { NameField } from '../measure/NameField';
import { options, standingNames } from '../measure/names';
import { useMeasures } from '../measure/useMeasures';
import { token } from '../theme';
import { FreedomField } from './FreedomField';
import { FreedomList } from './FreedomList';
import { LikeIt } from './LikeIt';
import { MountList } from './MountList';
import { PlaceRules } from './PlaceRules';
import { PlaceSearch } from './PlaceSearch';
import { changing } from './useComponent';

interface Props {
  state: JobState;
  bay: BayWorkup;
  component: ComponentWorkup;
  drawing: Drawing;
}

/** One big thing: moved as a whole, judged where it stands, held. */
export function ComponentPad({ state, bay, component, drawing }: Props) {
  const change = changing(drawing, component);
  const { freedoms, placing } = component;
  return (
    <Box sx={{ px: 1, pt: 0.75, pb: 1.25, borderLeft: `4px solid ${token.straw}`, bgcolor: token.paper }}>
      <ToggleButtonGroup
        exclusive
        size='small'
        value={component.standing}
        aria-label='Whether it is there'
        onChange={(_, standing: InstallState | null) =>
          standing && void change({ set: 'standing', standing })
        }
        sx={{
          '& button': { textTransform: 'none', px: 1.25, py: 0.25, fontSize: 13.5, color: token.ink },
          '& button.Mui-selected, & button.Mui-selected:hover': { bgcolor: token.straw },
        }}
      >
        {options(standingNames).map(([standing, name]) => (
          <ToggleButton key={standing} value={standing}>
            {name}
          </ToggleButton>
        ))}
      </ToggleButtonGroup>
      <Box sx={{ mt: 1 }}>
        {freedoms.map((freedom, index) => (
          <FreedomField
            // biome-ignore lint/suspicious/noArrayIndexKey: freedoms have no name but their place
            key={index}
            component={component}
            index={index}
            freedom={freedom}
            drawing={drawing}
          />
        ))}
        {freedoms.length === 0 && (
          <Box sx={{ fontSize: 14, color: token.inkSoft }}>It stays where it was measured.</Box>
        )}
      </Box>
      <Glances drawing={drawing} />
      {freedoms.length > 0 && component.body.length > 0 && (
        <PlaceSearch key={component.component} state={state} component={component} drawing={drawing} />
      )}
      {component.body.length > 0 && (
        <Fold name='Where it stands' aside={standsAside(component)} first>
          <PlaceRules bay={bay} component={component} drawing={drawing} />
        </Fold>
      )}
      <Fold
        name='How it is held'
        aside={placing.mounts.length ? `${placing.mounts.length} mounts` : 'not said'}
        first={placing.mounts.length > 0}
      >
        <MountList state={state} bay={bay} component={component} drawing={drawing} />
        <Height component={component} drawing={drawing} />
      </Fold>
      <Fold name='What it may be moved by' aside={`${freedoms.length || 'nothing'}`}>
        <FreedomList component={component} drawing={drawing} />
      </Fold>
      <Fold name='What it is' aside={`${component.body.length} bodies, ${component.ports.length} ports`}>
        <Parts bay={bay} component={component} drawing={drawing} />
      </Fold>
      <Fold name='Another like it' aside='copy, mirror, swap'>
        <LikeIt component={component} drawing={drawing} />
      </Fold>
    </Box>
  );
}

/** How the pipes on it would be, while it is moved. */
function Glances({ drawing }: { drawing: Drawing }) {
  const unit = useBench((bench) => bench.unit);
  if (drawing.runs.length === 0) return null;
  return (
    <Box role='status' sx={{ fontSize: 13.5, lineHeight: 1.35, my: 0.75 }}>
      {drawing.runs.map((run) => {
        const look = severityLook(
          run.counts.errors > 0 ? 'error' : run.counts.warnings > 0 ? 'warning' : 'info',
        );
        return (
          <Box key={run.run} sx={{ borderTop: `1px solid ${token.hairline}`, py: 0.4 }}>
            <strong>{run.mark}</strong>{' '}
            <Box component='span' sx={{ color: look.ink }}>
              {run.worst ? `${look.shape} ${sentence(run.worst, unit)}` : '✓ clear, and joins its ports'}
            </Box>
          </Box>
        );
      })}
    </Box>
  );
}

function standsAside({ placing: { shown, ground } }: ComponentWorkup): string {
  if (shown) return `${(shown.share * 100).toFixed(0)} % shown`;
  return ground ? 'over the ground' : '';
}

/** How much higher it stands on its mounts than when it was measured. */
function Height({ component, drawing }: Pick<Props, 'component' | 'drawing'>) {
  const change = changing(drawing, component);
  const measure = useMeasures([0, 0, 0]);
  return (
    <Box sx={{ display: 'grid', gridTemplateColumns: '1fr 1fr', gap: 1, mt: 1.5 }}>
      <LengthField
        label='Its mounts lift it by'
        width='100%'
        value={component.raised ?? measure(0)}
        onKeep={(raised) => change({ set: 'raised', raised: raised > 0 ? raised : null })}
      />
      <NumberField
        label='Mass, filled'
        unit='kg'
        width='100%'
        value={component.mass ?? 0}
        onKeep={(mass) => change({ set: 'mass', mass: mass > 0 ? mass : null })}
      />
    </Box>
  );
}

/** Its name, its bodies and its ports. */
function Parts({ bay, component, drawing }: Omit<Props, 'state'>) {
  const select = useBench((bench) => bench.select);
  const change = changing(drawing, component);
  const { body, ports } = component;
  const key = (port: PortRef) => `${port.run} ${port.end}`;
  const taken = new Set(bay.components.flatMap((one) => one.body));
  const free = bay.keep_outs.filter((one) => !taken.has(one.keep_out) && one.shape.shape !== 'plane');
  const put = (next: { body?: number[]; ports?: PortRef[] }) =>
    change({ set: 'parts', body, ports, ...next });
  const freePorts = bay.ports.filter((port) => port.component == null);
  return (
    <Box sx={{ fontSize: 14 }}>
      <Box sx={{ display: 'grid', gap: 1.25, my: 1 }}>
        <NameField
          label='What it is'
          value={component.name}
          onKeep={(name) => change({ set: 'name', name })}
        />
        <NameField
          label='Why this one'
          value={component.note ?? ''}
          onKeep={(note) => change({ set: 'note', note: note || null })}
        />
      </Box>
      {body.map((id) => {
        const name = bay.keep_outs.find((one) => one.keep_out === id)?.name ?? '';
        return (
          <Listed
            key={id}
            name={name}
            onOpen={() => select({ part: 'keep_out', keep_out: id })}
            onDrop={() => put({ body: body.filter((one) => one !== id) })}
            from={component.name}
          />
        );
      })}
      {ports.map((port) => {
        const shown = bay.ports.find((one) => key(one.port) === key(port));
        return (
          <Listed
            key={key(port)}
            name={`${shown?.name}, ${shown?.run_name}`}
            onDrop={() => put({ ports: ports.filter((one) => key(one) !== key(port)) })}
            from={component.name}
          />
        );
      })}
      <Box sx={{ display: 'grid', gridTemplateColumns: '1fr 1fr', gap: 1, mt: 1.25 }}>
        <Choice
          label='Put a body to it'
          width='100%'
          value=''
          options={free.map((one) => [String(one.keep_out), one.name] as const)}
          onChange={(id) => void put({ body: [...body, Number(id)] })}
        />
        <Choice
          label='Put a port on it'
          width='100%'
          value=''
          options={freePorts.map((port) => [key(port.port), `${port.name}, ${port.run_name}`] as const)}
          onChange={(next) => {
            const port = freePorts.find((one) => key(one.port) === next)?.port;
            if (port) void put({ ports: [...ports, port] });
          }}
        />
      </Box>
      <Button
        variant='text'
        sx={{ p: 0, mt: 1, color: token.fouls }}
        onClick={() =>
          void drawing.keep({ step: 'place', edit: 'remove_component', component: component.component })
        }
      >
        Take it apart
      </Button>
    </Box>
  );
}

function Listed({
  name,
  from,
  onOpen,
  onDrop,
}: {
  name: string;
  from: string;
  onOpen?: () => void;
  onDrop: () => void;
}) {
  return (
    <Box sx={{ display: 'flex', alignItems: 'center', borderTop: `1px solid ${token.hairline}` }}>
      {onOpen ? (
        <Button variant='text' sx={{ p: 0, minHeight: 28, fontWeight: 400 }} onClick={onOpen}>
          {name}
        </Button>
      ) : (
        name
      )}
      <Button
        variant='text'
        sx={{ ml: 'auto', p: 0, minWidth: 24 }}
        aria-label={`Take ${name} off ${from}`}
        onClick={onDrop}
      >
        ×
      </Button>
    </Box>
  );
}
