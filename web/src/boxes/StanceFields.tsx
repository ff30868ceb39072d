import { Box, Button, Typography } from '@mui/material';
import type { BayWorkup, Stance } from '../api/generated/schema';
import { LengthField } from '../kit/LengthField';
import { NumberField } from '../kit/NumberField';
import type { Drawing } from '../kit/useDrawing';
import { PointFields } from '../measure/PointFields';

type Triple = [number, number, number];

const first: Stance = { front: [-200, 0, -430], rear: [-2800, 0, -430] };

/** How the car stands over the ground: where the tyres touch, how far it sinks, what it must drive up. */
export function StanceFields({
  bay,
  kept,
  drawing,
}: {
  bay: BayWorkup;
  kept: Stance | undefined;
  drawing: Drawing;
}) {
  const set = (stance: Stance | null) => drawing.keep({ step: 'place', edit: 'set_stance', stance });
  const { stance } = bay;
  if (!kept || !stance) {
    return (
      <>
        <Typography variant='body2' sx={{ my: 1 }}>
          Nothing said yet, so nothing is checked for scraping.
        </Typography>
        <Button variant='contained' onClick={() => void set(first)}>
          Say where the tyres touch
        </Button>
      </>
    );
  }
  return (
    <>
      <PointFields
        label='front tyres'
        at={kept.front as Triple}
        onKeep={(front) => set({ ...kept, front })}
      />
      <PointFields label='rear tyres' at={kept.rear as Triple} onKeep={(rear) => set({ ...kept, rear })} />
      <Box sx={{ display: 'grid', gridTemplateColumns: '1fr 1fr', gap: 1, mt: 1.25 }}>
        <LengthField
          label='Travel to full bump'
          width='100%'
          value={stance.travel}
          onKeep={(travel) => set({ ...kept, travel })}
        />
        <NumberField
          label='Steepest ramp'
          unit='°'
          width='100%'
          value={stance.ramp}
          onKeep={(ramp) => set({ ...kept, ramp })}
        />
      </Box>
      <Button variant='text' sx={{ p: 0, mt: 0.5 }} onClick={() => void set(null)}>
        Forget it
      </Button>
    </>
  );
}
