import { Box } from '@mui/material';
import { LengthField } from '../kit/LengthField';
import { useLatest } from '../kit/useLatest';
import { useMeasures } from './useMeasures';

type Point = [number, number, number];

interface Props {
  /** Said after each axis, to tell fields apart. */
  label: string;
  at: Point;
  onKeep: (at: Point) => Promise<unknown>;
}

const axes = ['x', 'y', 'z'] as const;

/** A point, each coordinate typed on its own: forward, left, up. */
export function PointFields({ label, at, onKeep }: Props) {
  const measure = useMeasures(at);
  const change = useLatest(at, onKeep);
  return (
    <Box sx={{ display: 'grid', gridTemplateColumns: '1fr 1fr 1fr', gap: 1, mt: 1.25 }}>
      {axes.map((axis, index) => (
        <LengthField
          direct
          key={axis}
          label={`${axis}, ${label}`}
          width='100%'
          value={measure(at[index] ?? 0)}
          onKeep={(mm) => change((now) => now.with(index, mm) as Point)}
        />
      ))}
    </Box>
  );
}
