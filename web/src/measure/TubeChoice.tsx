import { Box } from '@mui/material';
import type { Measure, Tube } from '../api/generated/schema';
import { useCatalogue } from '../api/hooks';
import { Choice } from '../kit/Choice';
import { LengthField } from '../kit/LengthField';
import { metalNames, options } from './names';

interface Props {
  tube: Tube;
  od: Measure | undefined;
  wall: Measure | undefined;
  onChange: (change: (tube: Tube) => Tube) => unknown;
}

/** Material and size from the catalogue; diameter and wall can be typed for tube that is not in it. */
export function TubeChoice({ tube, od, wall, onChange }: Props) {
  const catalogue = useCatalogue();
  const sizes = catalogue.data?.tubes ?? [];
  const known = sizes.find((size) => size.od === tube.od);
  const sizeOptions = sizes.map((size) => [String(size.od), size.name] as const);
  return (
    <Box sx={{ display: 'grid', gridTemplateColumns: '1fr 1fr', gap: 1, py: 1 }}>
      <Choice
        label='Material'
        width='100%'
        value={tube.material in metalNames ? (tube.material as keyof typeof metalNames) : 'stainless304l'}
        options={options(metalNames)}
        onChange={(material) => onChange((now) => ({ ...now, material }))}
      />
      <Choice
        label='Tube size'
        width='100%'
        value={known ? String(known.od) : 'own'}
        options={[...sizeOptions, ...(known ? [] : [['own', 'Not in the catalogue'] as const])]}
        onChange={(name) => {
          const size = sizes.find((candidate) => String(candidate.od) === name);
          if (!size) return;
          onChange((now) => ({
            ...now,
            od: size.od,
            wall: size.walls.includes(now.wall) ? now.wall : (size.walls[0] ?? now.wall),
          }));
        }}
      />
      <LengthField
        label='Outside diameter'
        width='100%'
        value={od}
        onKeep={(mm) => onChange((now) => ({ ...now, od: mm }))}
      />
      <LengthField
        label='Wall'
        width='100%'
        value={wall}
        onKeep={(mm) => onChange((now) => ({ ...now, wall: mm }))}
      />
    </Box>
  );
}
