import { Box, Button, Typography } from '@mui/material';
import type { Measure, Swing } from '../api/generated/schema';
import { Choice } from '../kit/Choice';
import { NumberField } from '../kit/NumberField';
import { token } from '../theme';
import { PointFields } from './PointFields';

interface Props {
  swing: Swing | undefined;
  /** Where the thing is, for a first hinge. */
  at: readonly Measure[];
  onKeep: (swing: Swing | null) => Promise<unknown>;
}

const hinges = {
  '1,0,0': 'along the car',
  '0,1,0': 'across the car',
  '0,0,1': 'upright',
} as const;
type Hinge = keyof typeof hinges | 'own';

/** How something opens or sweeps. */
export function SwingFields({ swing, at, onKeep }: Props) {
  if (!swing) {
    return (
      <Button
        variant='text'
        sx={{ p: 0, mt: 1, display: 'block' }}
        onClick={() => {
          const pivot = at.map((c) => c.mm) as [number, number, number];
          void onKeep({ pivot, axis: [0, 0, 1], from: 0, to: 60 });
        }}
      >
        It opens or sweeps…
      </Button>
    );
  }
  const axis = Array.isArray(swing.axis) ? swing.axis.join(',') : '';
  const hinge: Hinge = axis in hinges ? (axis as Hinge) : 'own';
  return (
    <Box sx={{ mt: 1.25, borderTop: `1px solid ${token.hairline}`, pt: 0.75 }}>
      <Typography variant='body2'>
        Opens or sweeps about a hinge; the room it sweeps is kept out too.
      </Typography>
      <PointFields label='hinge' at={swing.pivot} onKeep={(pivot) => onKeep({ ...swing, pivot })} />
      <Box sx={{ display: 'grid', gridTemplateColumns: '1.4fr 1fr 1fr', gap: 1, mt: 1.25 }}>
        <Choice<Hinge>
          label='Hinge runs'
          width='100%'
          value={hinge}
          options={[
            ...(Object.entries(hinges) as [Hinge, string][]),
            ...(hinge === 'own' ? ([['own', 'as it was said']] as [Hinge, string][]) : []),
          ]}
          onChange={(next) => {
            if (next !== 'own')
              void onKeep({ ...swing, axis: next.split(',').map(Number) as [number, number, number] });
          }}
        />
        <NumberField
          label='Swings from'
          unit='°'
          width='100%'
          value={swing.from}
          onKeep={(from) => onKeep({ ...swing, from })}
        />
        <NumberField
          label='to'
          unit='°'
          width='100%'
          value={swing.to}
          onKeep={(to) => onKeep({ ...swing, to })}
        />
      </Box>
      <Button variant='text' sx={{ p: 0, mt: 0.5 }} onClick={() => void onKeep(null)}>
        It stays put
      </Button>
    </Box>
  );
}
