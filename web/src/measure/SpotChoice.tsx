import { Box } from '@mui/material';
import type { Spot } from '../api/generated/schema';
import { Choice } from '../kit/Choice';
import { LengthField } from '../kit/LengthField';
import { useMeasures } from './useMeasures';

interface Props {
  spots: 'stick' | 'corners';
  spot: Spot;
  onChange: (spot: Spot) => void;
}

const corners: readonly (readonly [string, string])[] = [
  ['centre', 'to its middle'],
  ['1 1 1', 'front left upper'],
  ['1 -1 1', 'front right upper'],
  ['-1 1 1', 'back left upper'],
  ['-1 -1 1', 'back right upper'],
  ['1 1 -1', 'front left lower'],
  ['1 -1 -1', 'front right lower'],
  ['-1 1 -1', 'back left lower'],
  ['-1 -1 -1', 'back right lower'],
];

/** Which point of the thing a reading goes to. */
export function SpotChoice({ spots, spot, onChange }: Props) {
  const measure = useMeasures(spot.spot === 'stick' ? [spot.mm] : []);
  if (spots === 'corners') {
    return (
      <Choice
        label='To which corner'
        hideLabel
        width={150}
        value={spot.spot === 'corner' ? spot.towards.join(' ') : 'centre'}
        options={corners}
        onChange={(next) =>
          onChange(
            next === 'centre'
              ? { spot: 'centre' }
              : { spot: 'corner', towards: next.split(' ').map(Number) as [number, number, number] },
          )
        }
      />
    );
  }
  return (
    <Box sx={{ display: 'flex', gap: 1 }}>
      <Choice
        label='To the mouth or a stick'
        hideLabel
        width={122}
        value={spot.spot === 'stick' ? 'stick' : 'centre'}
        options={[
          ['centre', 'to mouth'],
          ['stick', 'to stick'],
        ]}
        onChange={(next) => onChange(next === 'stick' ? { spot: 'stick', mm: 300 } : { spot: 'centre' })}
      />
      {spot.spot === 'stick' && (
        <LengthField
          label='Mark on the stick, out of the mouth'
          hideLabel
          width={96}
          value={measure(spot.mm)}
          onKeep={(mm) => onChange({ spot: 'stick', mm })}
        />
      )}
    </Box>
  );
}
