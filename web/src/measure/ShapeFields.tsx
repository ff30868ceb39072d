import { Box, Button, Typography } from '@mui/material';
import type { Direction, KeepOutShape } from '../api/generated/schema';
import { LengthField } from '../kit/LengthField';
import { NumberField } from '../kit/NumberField';
import { useLatest } from '../kit/useLatest';
import { PointFields } from './PointFields';
import { useMeasures } from './useMeasures';

type Point = [number, number, number];

interface Props {
  shape: KeepOutShape;
  /** Whether readings say where it is. */
  held: boolean;
  onKeep: (shape: KeepOutShape) => Promise<unknown>;
}

/** A keep-out's place and size, typed. */
export function ShapeFields({ shape, held, onKeep }: Props) {
  const measure = useMeasures(lengthsOf(shape));
  const change = useLatest(shape, onKeep);
  /** Changes fields of the shape as it is when the field is kept. */
  const set = (fields: (now: KeepOutShape) => Partial<KeepOutShape>) =>
    change((now) => ({ ...now, ...fields(now) }) as KeepOutShape);
  const place = held ? 'roughly' : '';
  const length = (label: string, mm: number, keep: (mm: number) => unknown) => (
    <LengthField key={label} label={label} width='100%' value={measure(mm)} onKeep={keep} />
  );
  switch (shape.shape) {
    case 'box':
      return (
        <>
          <PointFields
            label={place || 'middle'}
            at={shape.centre}
            onKeep={(centre) => set(() => ({ centre }))}
          />
          <Three>
            {(['Long', 'Wide', 'High'] as const).map((label, index) =>
              length(label, shape.size[index] ?? 0, (mm) =>
                change((now) =>
                  now.shape === 'box' ? { ...now, size: now.size.with(index, mm) as Point } : now,
                ),
              ),
            )}
          </Three>
          <Three>
            <NumberField
              label='Turned left'
              unit='°'
              width='100%'
              value={shape.heading}
              onKeep={(heading) => set(() => ({ heading }))}
            />
            <NumberField
              label='Nose up'
              unit='°'
              width='100%'
              value={shape.pitch ?? 0}
              onKeep={(pitch) => set(() => ({ pitch }))}
            />
            <NumberField
              label='Left side up'
              unit='°'
              width='100%'
              value={shape.roll ?? 0}
              onKeep={(roll) => set(() => ({ roll }))}
            />
          </Three>
        </>
      );
    case 'cylinder':
      return (
        <>
          <PointFields label={place || 'one end'} at={shape.from} onKeep={(from) => set(() => ({ from }))} />
          <PointFields label='other end' at={shape.to} onKeep={(to) => set(() => ({ to }))} />
          <Three>{length('Diameter', shape.diameter, (diameter) => set(() => ({ diameter })))}</Three>
        </>
      );
    case 'sphere':
      return (
        <>
          <PointFields
            label={place || 'middle'}
            at={shape.centre}
            onKeep={(centre) => set(() => ({ centre }))}
          />
          <Three>{length('Diameter', shape.diameter, (diameter) => set(() => ({ diameter })))}</Three>
        </>
      );
    case 'plane':
      return (
        <>
          <PointFields
            label={place || 'middle'}
            at={shape.centre}
            onKeep={(centre) => set(() => ({ centre }))}
          />
          <Three>
            {(['Long', 'Wide'] as const).map((label, index) =>
              length(label, shape.size[index] ?? 0, (mm) =>
                change((now) =>
                  now.shape === 'plane'
                    ? { ...now, size: now.size.with(index, mm) as [number, number] }
                    : now,
                ),
              ),
            )}
          </Three>
          <Normal normal={shape.normal} onKeep={(normal) => set(() => ({ normal }))} />
        </>
      );
    case 'line':
      return (
        <>
          <Points name='point' points={shape.points} least={2} onKeep={(points) => set(() => ({ points }))} />
          <Three>{length('Diameter', shape.diameter, (diameter) => set(() => ({ diameter })))}</Three>
        </>
      );
    case 'sheet':
      return (
        <Points
          name='corner'
          points={shape.corners}
          least={3}
          onKeep={(corners) => set(() => ({ corners }))}
        />
      );
    default:
      return null;
  }
}

/** The lengths of a shape that have fields of their own, its points aside. */
function lengthsOf(shape: KeepOutShape): number[] {
  if (shape.shape === 'box' || shape.shape === 'plane') return [...shape.size];
  return 'diameter' in shape ? [shape.diameter] : [];
}

function Three({ children }: { children: React.ReactNode }) {
  return <Box sx={{ display: 'grid', gridTemplateColumns: '1fr 1fr 1fr', gap: 1, mt: 1.25 }}>{children}</Box>;
}

const faces = ['Faces forward', 'left', 'up'] as const;

/** The side of a sheet that is kept clear, as a vector. */
function Normal({ normal, onKeep }: { normal: Direction; onKeep: (normal: Point) => unknown }) {
  const vector: Point = Array.isArray(normal) ? normal : [0, 0, 1];
  return (
    <Three>
      {faces.map((label, index) => (
        <NumberField
          key={label}
          label={label}
          unit=''
          digits={3}
          width='100%'
          value={vector[index] ?? 0}
          onKeep={(value) => onKeep(vector.with(index, value) as Point)}
        />
      ))}
    </Three>
  );
}

interface PointsProps {
  name: string;
  points: Point[];
  least: number;
  onKeep: (points: Point[]) => Promise<unknown>;
}

function Points({ name, points, least, onKeep }: PointsProps) {
  const last = points.at(-1) ?? [0, 0, 0];
  return (
    <>
      {points.map((point, index) => (
        <Box
          // biome-ignore lint/suspicious/noArrayIndexKey: points are named by their place
          key={index}
          sx={{ display: 'grid', gridTemplateColumns: '1fr 24px', alignItems: 'end' }}
        >
          <PointFields
            label={`${name} ${index + 1}`}
            at={point}
            onKeep={(at) => onKeep(points.with(index, at))}
          />
          <Button
            variant='text'
            aria-label={`Take out ${name} ${index + 1}`}
            disabled={points.length <= least}
            onClick={() => void onKeep(points.toSpliced(index, 1))}
            sx={{ minWidth: 0, p: 0.5 }}
          >
            ×
          </Button>
        </Box>
      ))}
      <Typography component='div' sx={{ mt: 0.75 }}>
        <Button
          variant='text'
          sx={{ p: 0 }}
          onClick={() => void onKeep([...points, [last[0] + 50, last[1], last[2]]])}
        >
          Add a {name}
        </Button>
      </Typography>
    </>
  );
}
