import { Box, Button, Typography } from '@mui/material';
import type { BayWorkup, ComponentWorkup, JobState } from '../api/generated/schema';
import { length, samePart, type Unit, useBench } from '../kit/bench';
import type { Drawing } from '../kit/useDrawing';
import { standingNames } from '../measure/names';
import { ThingRow } from '../measure/ThingRow';
import { token } from '../theme';
import { ComponentPad } from './ComponentPad';
import { freedomName } from './FreedomField';

interface Props {
  state: JobState;
  bay: BayWorkup;
  drawing: Drawing;
}

/** The big things, each as one: body, ports and mounts moved together. */
export function ComponentStage({ state, bay, drawing }: Props) {
  const { unit, selected, select, selectMade } = useBench();
  const lone = bay.keep_outs.filter(
    (one) =>
      one.big &&
      one.shape.shape !== 'plane' &&
      !bay.components.some((whole) => whole.body.includes(one.keep_out)),
  );
  const make = async (keepOut: (typeof lone)[number]) => {
    const ports = bay.ports.filter((port) => port.on === keepOut.keep_out && port.component == null);
    const made = await drawing.keep({
      step: 'place',
      edit: 'add_component',
      name: keepOut.name,
      body: [keepOut.keep_out],
      ports: ports.map((port) => port.port),
      freedoms: [
        { moves: 'slide', along: [1, 0, 0], from: -50, to: 50, slid: 0 },
        { moves: 'slide', along: [0, 0, 1], from: -50, to: 50, slid: 0 },
      ],
    });
    if (made) selectMade(made);
  };
  const add = async () => {
    const made = await drawing.keep({
      step: 'place',
      edit: 'add_component',
      name: 'component',
      body: [],
      ports: [],
    });
    if (made) selectMade(made);
  };
  return (
    <Box sx={{ mb: 2 }}>
      <Box role='group' aria-label='Components' sx={{ mx: -1, borderBottom: `1px solid ${token.hairline}` }}>
        {bay.components.map((component) => {
          const part = { part: 'component', component: component.component } as const;
          const open =
            samePart(selected, part) ||
            (selected.part === 'mount' && selected.component === component.component);
          return (
            <Box key={component.component}>
              <ThingRow
                name={component.name}
                aside={aside(component, unit)}
                selected={open}
                ghost={component.standing !== 'in_place'}
                severity={worst(bay, component)}
                onSelect={() => select(open ? { part: 'nothing' } : part)}
              />
              {open && <ComponentPad state={state} bay={bay} component={component} drawing={drawing} />}
            </Box>
          );
        })}
      </Box>
      {lone.length > 0 && (
        <Typography variant='body2' sx={{ mt: 1, lineHeight: 1.5 }}>
          Still boxes by themselves:{' '}
          {lone.map((one) => (
            <Button
              key={one.keep_out}
              variant='text'
              sx={{ p: 0, mr: 1, minWidth: 0 }}
              onClick={() => void make(one)}
            >
              make the {one.name} one
            </Button>
          ))}
        </Typography>
      )}
      <Button variant='outlined' sx={{ mt: 1 }} onClick={() => void add()}>
        Add a component
      </Button>
    </Box>
  );
}

/** How it stands, or how far it is from where it was measured. */
function aside(component: ComponentWorkup, unit: Unit): string {
  const moved = component.freedoms
    .filter((freedom) => Math.abs(freedom.setting) >= 0.05)
    .map((freedom) => {
      const by = freedom.slid
        ? length(freedom.slid, unit)
        : `${freedom.setting.toFixed(1).replace('.0', '')}°`;
      return `${freedomName(freedom).toLowerCase()} ${by}`;
    });
  if (component.standing !== 'in_place') moved.unshift(standingNames[component.standing].toLowerCase());
  return moved.join(', ') || 'as measured';
}

function worst(bay: BayWorkup, component: ComponentWorkup) {
  const ours = bay.findings.filter(
    ({ part }) =>
      ((part.part === 'component' || part.part === 'mount') && part.component === component.component) ||
      (part.part === 'keep_out' && component.body.includes(part.keep_out)),
  );
  return ours[0]?.severity;
}
