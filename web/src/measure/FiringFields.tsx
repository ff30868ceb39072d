import { Box, Typography } from '@mui/material';
import type { EngineFiring } from '../api/generated/schema';
import { NumberField } from '../kit/NumberField';

interface Props {
  kept: EngineFiring | null | undefined;
  onKeep: (firing: EngineFiring | null) => Promise<unknown>;
}

/** What shakes the pipes that ride on the engine: how often it fires. Asked once for the whole job. */
export function FiringFields({ kept, onKeep }: Props) {
  const firing = kept ?? { cylinders: 4, top: 6000 };
  return (
    <>
      <Typography variant='h2' component='h3' sx={{ mt: 2, mb: 0.5 }}>
        How fast it turns
      </Typography>
      <Typography variant='body2' color='textSecondary' sx={{ mb: 1, lineHeight: 1.3 }}>
        {kept
          ? 'Pipes on the engine are held so that none rings where it is run.'
          : 'Nobody said. Keep one figure, and spans of pipe on the engine are judged by it.'}
      </Typography>
      <Box sx={{ display: 'grid', gridTemplateColumns: '1fr 1fr', gap: 1 }}>
        <NumberField
          label='Cylinders'
          unit=''
          digits={0}
          width='100%'
          value={firing.cylinders}
          onKeep={(cylinders) => onKeep({ ...firing, cylinders })}
        />
        <NumberField
          label='Usual top speed'
          unit='rpm'
          digits={0}
          width='100%'
          value={firing.top}
          onKeep={(top) => onKeep({ ...firing, top })}
        />
        <NumberField
          label='Least usual speed'
          unit='rpm'
          digits={0}
          width='100%'
          value={firing.least ?? 0}
          onKeep={(least) => onKeep({ ...firing, least: least > 0 ? least : null })}
        />
      </Box>
    </>
  );
}
