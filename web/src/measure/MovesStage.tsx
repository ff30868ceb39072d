import { Box, Button, Typography } from '@mui/material';
import type { BayWorkup, JobState, Mounts } from '../api/generated/schema';
import { samePart, useBench } from '../kit/bench';
import type { Drawing } from '../kit/useDrawing';
import { token } from '../theme';
import { ComponentDetail } from './ComponentDetail';
import { MountFields } from './MountFields';
import { ThingRow } from './ThingRow';

interface Props {
  state: JobState;
  bay: BayWorkup;
  drawing: Drawing;
}

const firstMounts: Mounts = { kind: 'soft', from: [-400, 0, 0], to: [100, 0, 0] };

/** How the engine moves on its mounts, and what turns on its bolts. */
export function MovesStage({ state, bay, drawing }: Props) {
  const { selected, select, selectMade } = useBench();
  const kept = state.job.mounts;
  const set = (mounts: Mounts | null) => drawing.keep({ step: 'measure', edit: 'set_mounts', mounts });

  async function addComponent() {
    const edit = {
      step: 'measure',
      edit: 'add_component',
      name: 'component',
      pivot: [0, 0, 0],
      axis: [0, 0, 1],
      range: { turns: 'freely', from: -30, to: 30 },
      ports: [],
    } as const;
    const made = await drawing.keep({ ...edit, pivot: [0, 0, 0], axis: [0, 0, 1], ports: [] });
    if (made) selectMade(made);
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
