import { Box, Button, Typography } from '@mui/material';
import type { BayWorkup, JobState, Mounts } from '../api/generated/schema';
import { FreedomField } from '../boxes/FreedomField';
import { StanceFields } from '../boxes/StanceFields';
import type { Drawing } from '../kit/useDrawing';
import { token } from '../theme';
import { FiringFields } from './FiringFields';
import { MountFields } from './MountFields';

interface Props {
  state: JobState;
  bay: BayWorkup;
  drawing: Drawing;
}

const firstMounts: Mounts = { kind: 'soft', from: [-400, 0, 0], to: [100, 0, 0] };

/** How the engine moves on its mounts, how the car stands, and what turns on its bolts. */
export function MovesStage({ state, bay, drawing }: Props) {
  const turning = bay.components.filter((one) => one.freedoms.some((freedom) => freedom.is.moves === 'turn'));
  const kept = state.job.mounts;
  const set = (mounts: Mounts | null) => drawing.keep({ step: 'measure', edit: 'set_mounts', mounts });

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
      <FiringFields
        kept={bay.firing}
        onKeep={(firing) => drawing.keep({ step: 'measure', edit: 'set_firing', firing })}
      />
      <Typography variant='h2' component='h3' sx={{ mt: 2, mb: 0.5 }}>
        The car over the ground
      </Typography>
      <StanceFields bay={bay} kept={state.job.stance ?? undefined} drawing={drawing} />
      {turning.length > 0 && (
        <>
          <Typography variant='h2' component='h3' sx={{ mt: 2, mb: 0.5 }}>
            Parts that turn on their bolts
          </Typography>
          {turning.map((component) => (
            <Box key={component.component} sx={{ borderTop: `1px solid ${token.hairline}`, pt: 0.5 }}>
              <Box sx={{ fontSize: 14.5 }}>{component.name}</Box>
              {component.freedoms.map(
                (freedom, index) =>
                  freedom.is.moves === 'turn' && (
                    <FreedomField
                      // biome-ignore lint/suspicious/noArrayIndexKey: freedoms have no name but their place
                      key={index}
                      component={component}
                      index={index}
                      freedom={freedom}
                      drawing={drawing}
                    />
                  ),
              )}
            </Box>
          ))}
        </>
      )}
    </>
  );
}
