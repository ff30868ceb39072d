import { Box, Link, Typography } from '@mui/material';
import { useParams } from 'react-router';
import type { FlangePlate, JointFigures, JointId, PlateWorkup, Workup } from '../api/generated/schema';
import { length, useBench } from '../kit/bench';
import { Choice } from '../kit/Choice';
import { LengthField } from '../kit/LengthField';
import { useLatest } from '../kit/useLatest';
import { useMeasures } from '../measure/useMeasures';
import { token } from '../theme';

interface Props {
  workup: Workup;
  joint: JointId;
  figures: JointFigures;
  onChange: (plate: FlangePlate | null) => Promise<unknown>;
}

/** A flange plate from a bolt pattern measured hole to hole, with its drawing at true scale. */
export function PlateFields({ workup, joint, figures, onChange }: Props) {
  const { id } = useParams();
  const unit = useBench((bench) => bench.unit);
  const told = figures.plate;
  const plate = told?.plate;
  const holes = plate ? countOf(plate) : 0;
  // Distances are typed one after the other, faster than each is kept.
  const change = useLatest(plate, (to) => onChange(to ?? null));
  return (
    <Box
      component='section'
      aria-label='Flange plate'
      sx={{ py: 1, borderTop: `1px solid ${token.hairline}` }}
    >
      <Typography variant='h2' sx={{ mb: 0.5 }}>
        Flange plate
      </Typography>
      <Choice
        label='Bolt pattern'
        width='100%'
        value={String(holes)}
        options={[
          ['0', 'No plate to cut'],
          ['2', 'Two holes'],
          ['3', 'Three holes'],
          ['4', 'Four holes'],
          ...(holes > 4 ? ([[String(holes), `${holes} holes`]] as const) : []),
        ]}
        onChange={(count) => onChange(count === '0' ? null : firstPlate(Number(count)))}
      />
      {told && plate && (
        <>
          <Typography variant='body2' color='textSecondary' sx={{ mt: 0.75 }}>
            Number the holes clockwise as you look at the component’s face, and measure from middle to middle.
          </Typography>
          <Distances plate={plate} told={told} onChange={(how) => change((now) => (now ? how(now) : now))} />
          {told.wrong ? (
            <Typography role='alert' variant='body2' sx={{ color: token.fouls }}>
              {told.wrong}
            </Typography>
          ) : (
            <Box sx={{ display: 'flex', gap: 1.5, alignItems: 'center', mt: 0.5 }}>
              <Sketch told={told} />
              <Typography variant='body2'>
                From a piece {length(told.size[0], unit)} by {length(told.size[1], unit)}.{' '}
                <Link href={`/api/jobs/${id}/runs/${workup.run}/joints/${joint}/plate.svg`}>
                  Plate 1:1 (SVG)
                </Link>
              </Typography>
            </Box>
          )}
        </>
      )}
    </Box>
  );
}

interface DistancesProps {
  plate: FlangePlate;
  told: PlateWorkup;
  onChange: (how: (now: FlangePlate) => FlangePlate) => unknown;
}

function Distances({ plate, told, onChange }: DistancesProps) {
  const diagonals = plate.diagonals ?? [];
  const measure = useMeasures(
    [...plate.sides, ...diagonals, plate.check ?? undefined, plate.hole].filter(
      (mm): mm is number => mm != null,
    ),
  );
  const count = countOf(plate);
  const put = (list: number[], at: number, mm: number) => list.map((one, index) => (index === at ? mm : one));
  // The other one stays as the pattern's middle has it until it is measured too.
  const bore = (at: 0 | 1, mm: number) => {
    const [one = mm, two = mm] = told.middle_to.map((known) => known.mm);
    onChange((now) => ({ ...now, bore: at === 0 ? [mm, two] : [one, mm] }));
  };
  return (
    <Box sx={{ display: 'grid', gridTemplateColumns: '1fr 1fr 1fr', gap: 1, py: 1.25 }}>
      {plate.sides.map((mm, at) => (
        <LengthField
          // biome-ignore lint/suspicious/noArrayIndexKey: a side is what it is by its place
          key={`side ${at}`}
          label={`Hole ${at + 1} to ${count === 2 ? 2 : ((at + 1) % count) + 1}`}
          width='100%'
          value={measure(mm)}
          onKeep={(to) => onChange((now) => ({ ...now, sides: put(now.sides, at, to) }))}
        />
      ))}
      {diagonals.map((mm, at) => (
        <LengthField
          // biome-ignore lint/suspicious/noArrayIndexKey: likewise
          key={`diagonal ${at}`}
          label={`Hole 1 to ${at + 3}`}
          width='100%'
          value={measure(mm)}
          onKeep={(to) => onChange((now) => ({ ...now, diagonals: put(now.diagonals ?? [], at, to) }))}
        />
      ))}
      {count > 3 && (
        <LengthField
          label={`Check: 2 to ${count}`}
          width='100%'
          value={plate.check == null ? undefined : measure(plate.check)}
          onKeep={(check) => onChange((now) => ({ ...now, check }))}
        />
      )}
      <LengthField label='Middle to 1' width='100%' value={told.middle_to[0]} onKeep={(mm) => bore(0, mm)} />
      <LengthField label='Middle to 2' width='100%' value={told.middle_to[1]} onKeep={(mm) => bore(1, mm)} />
      <LengthField
        label='Holes'
        width='100%'
        value={measure(plate.hole)}
        onKeep={(hole) => onChange((now) => ({ ...now, hole }))}
      />
      <LengthField
        label='Thick'
        width='100%'
        value={told.thickness}
        onKeep={(thickness) => onChange((now) => ({ ...now, thickness }))}
      />
    </Box>
  );
}

function countOf(plate: FlangePlate): number {
  return plate.sides.length === 1 ? 2 : plate.sides.length;
}

/** A pattern to begin with: even, of a common size. */
function firstPlate(count: number): FlangePlate {
  const even = 80;
  if (count === 2) return { sides: [even + 20], hole: 8.5 };
  if (count === 3) return { sides: [even, even, even], hole: 8.5 };
  return { sides: [even, even, even, even], diagonals: [113.1], hole: 8.5 };
}

/** The plate as it is cut, small. */
function Sketch({ told }: { told: PlateWorkup }) {
  const box = told.outline.reduce(
    ([x, y, w, h], [px = 0, py = 0]) =>
      [Math.min(x, px), Math.min(y, -py), Math.max(w, px), Math.max(h, -py)] as const,
    [0, 0, 0, 0] as readonly [number, number, number, number],
  );
  const [x, y, right, foot] = box;
  const points = told.outline.map(([px = 0, py = 0]) => `${px},${-py}`).join(' ');
  return (
    <svg
      width={120}
      height={90}
      viewBox={`${x - 3} ${y - 3} ${right - x + 6} ${foot - y + 6}`}
      role='img'
      aria-label='The plate as it is cut'
      style={{ flex: 'none' }}
    >
      <polygon points={points} fill={token.plate} stroke={token.ink} strokeWidth={1.2} />
      <circle r={told.bore.mm / 2} fill={token.paper} stroke={token.ink} strokeWidth={1.2} />
      {told.holes.map(([px = 0, py = 0], at) => (
        <g key={`${px} ${py}`}>
          <circle
            cx={px}
            cy={-py}
            r={told.plate.hole / 2}
            fill={token.paper}
            stroke={token.ink}
            strokeWidth={1}
          />
          <text x={px} y={-py + 3} textAnchor='middle' fontSize={8} fill={token.ink}>
            {at + 1}
          </text>
        </g>
      ))}
    </svg>
  );
}
