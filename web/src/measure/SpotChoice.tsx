import { Box } from '@mui/material';
import type { Spot } from '../api/generated/schema';
import { Choice } from '../kit/Choice';
import { LengthField } from '../kit/LengthField';
import { NumberField } from '../kit/NumberField';
import { useMeasures } from './useMeasures';

interface Props {
  spots: 'mouth' | 'corners';
  spot: Spot;
  /** Whether a tape goes there, which can be held to a rim. */
  tape: boolean;
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

const ofMouth: Record<string, readonly [string, Spot]> = {
  centre: ['to its centre', { spot: 'centre' }],
  near: ['to the near rim', { spot: 'rim', side: 'near' }],
  far: ['to the far rim', { spot: 'rim', side: 'far' }],
  stick: ['to the stick', { spot: 'stick', mm: 300 }],
  face: ['to its face', { spot: 'face', clock: 12, mm: 50 }],
};

/** Which point of the thing a reading goes to. */
export function SpotChoice({ spots, spot, tape, onChange }: Props) {
  const measure = useMeasures(spot.spot === 'stick' || spot.spot === 'face' ? [spot.mm] : []);
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
  const offered = Object.entries(ofMouth).filter(([, [, to]]) => tape || to.spot !== 'rim');
  return (
    <Box sx={{ display: 'flex', gap: 1, flexWrap: 'wrap' }}>
      <Choice
        label='To which point of the mouth'
        hideLabel
        width={132}
        value={spot.spot === 'rim' ? spot.side : spot.spot}
        options={offered.map(([key, [name]]) => [key, name] as const)}
        onChange={(next) => onChange(ofMouth[next]?.[1] ?? { spot: 'centre' })}
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
      {spot.spot === 'face' && (
        <>
          <NumberField
            label='Clock on the face, looking into the mouth'
            hideLabel
            unit='h'
            width={72}
            value={spot.clock}
            onKeep={(clock) => onChange({ ...spot, clock })}
          />
          <LengthField
            label='Out from the middle of the face'
            hideLabel
            width={96}
            value={measure(spot.mm)}
            onKeep={(mm) => onChange({ ...spot, mm })}
          />
        </>
      )}
    </Box>
  );
}
