import { Box, Button } from '@mui/material';
import type { ComponentWorkup, Freedom } from '../api/generated/schema';
import { Choice } from '../kit/Choice';
import { LengthField } from '../kit/LengthField';
import { NumberField } from '../kit/NumberField';
import type { Drawing } from '../kit/useDrawing';
import { PointFields } from '../measure/PointFields';
import { useMeasures } from '../measure/useMeasures';
import { token } from '../theme';
import { freedomName } from './FreedomField';
import { changing } from './useComponent';

type Triple = [number, number, number];
type Axis = 'x' | 'y' | 'z' | 'own';

const unit: Record<Exclude<Axis, 'own'>, Triple> = { x: [1, 0, 0], y: [0, 1, 0], z: [0, 0, 1] };
const axisOf = (way: unknown): Axis => {
  const said = JSON.stringify(way);
  return (
    (Object.keys(unit) as Exclude<Axis, 'own'>[]).find((one) => JSON.stringify(unit[one]) === said) ?? 'own'
  );
};
const slides: [Axis, string][] = [
  ['x', 'forward and back'],
  ['y', 'side to side'],
  ['z', 'up and down'],
];
const turns: [Axis, string][] = [
  ['y', 'leans, about across'],
  ['z', 'turns, about upright'],
  ['x', 'rolls, about along'],
];

/** What a component may be moved by: its slots, its bolts, its lean; each with its range. */
export function FreedomList({ component, drawing }: { component: ComponentWorkup; drawing: Drawing }) {
  const change = changing(drawing, component);
  const all = component.freedoms.map((freedom) => freedom.is);
  const keep = (freedoms: Freedom[]) => change({ set: 'freedoms', freedoms });
  const put = (index: number, freedom: Freedom) => keep(all.with(index, freedom));
  const at = (component.at?.map((c) => c.mm) ?? [0, 0, 0]) as Triple;
  return (
    <Box>
      {component.freedoms.map((freedom, index) => (
        <One
          // biome-ignore lint/suspicious/noArrayIndexKey: freedoms have no name but their place
          key={index}
          name={freedomName(freedom)}
          freedom={freedom.is}
          onPut={(next) => put(index, next)}
          onDrop={() => keep(all.filter((_, other) => other !== index))}
        />
      ))}
      <Box sx={{ display: 'flex', gap: 1, mt: 1 }}>
        <Button
          variant='outlined'
          onClick={() => void keep([...all, { moves: 'slide', along: unit.x, from: -50, to: 50, slid: 0 }])}
        >
          Add a slide
        </Button>
        <Button
          variant='outlined'
          onClick={() =>
            void keep([
              ...all,
              {
                moves: 'turn',
                pivot: at,
                axis: unit.y,
                range: { turns: 'freely', from: -10, to: 10 },
                turned: 0,
              },
            ])
          }
        >
          Add a turn
        </Button>
      </Box>
    </Box>
  );
}

interface OneProps {
  name: string;
  freedom: Freedom;
  onPut: (freedom: Freedom) => Promise<unknown>;
  onDrop: () => void;
}

function One({ name, freedom, onPut, onDrop }: OneProps) {
  const measure = useMeasures(
    freedom.moves === 'slide' ? [Number(freedom.from), Number(freedom.to), 0] : [0, 0, 0],
  );
  const slide = freedom.moves === 'slide';
  const axis = axisOf(slide ? freedom.along : freedom.axis);
  const grid = { display: 'grid', gridTemplateColumns: '1fr 1fr 1fr', gap: 1, mt: 1 };
  return (
    <Box sx={{ borderTop: `1px solid ${token.hairline}`, py: 1 }}>
      <Box sx={{ display: 'flex', alignItems: 'center', gap: 1 }}>
        <Choice<Axis>
          label={`${name}: which way`}
          hideLabel
          width='100%'
          value={axis}
          options={[
            ...(slide ? slides : turns),
            ...(axis === 'own' ? ([['own', 'as it was said']] as [Axis, string][]) : []),
          ]}
          onChange={(next) => {
            if (next === 'own') return;
            void onPut(slide ? { ...freedom, along: unit[next] } : { ...freedom, axis: unit[next] });
          }}
        />
        <Button variant='text' aria-label={`Take ${name} away`} sx={{ minWidth: 24, p: 0 }} onClick={onDrop}>
          ×
        </Button>
      </Box>
      {freedom.moves === 'slide' ? (
        <Box sx={{ ...grid, gridTemplateColumns: '1fr 1fr' }}>
          <LengthField
            label='From'
            width='100%'
            value={measure(Number(freedom.from))}
            onKeep={(from) => onPut({ ...freedom, from })}
          />
          <LengthField
            label='To'
            width='100%'
            value={measure(Number(freedom.to))}
            onKeep={(to) => onPut({ ...freedom, to })}
          />
        </Box>
      ) : (
        <Turning freedom={freedom} onPut={onPut} />
      )}
    </Box>
  );
}

function Turning({
  freedom,
  onPut,
}: {
  freedom: Extract<Freedom, { moves: 'turn' }>;
  onPut: OneProps['onPut'];
}) {
  const { range } = freedom;
  const field = (label: string, value: number, digits: number, put: (value: number) => Freedom) => (
    <NumberField
      label={label}
      unit={digits ? '°' : ''}
      digits={digits}
      width='100%'
      value={value}
      onKeep={(next) => onPut(put(next))}
    />
  );
  return (
    <>
      <PointFields
        label='on its axis'
        at={freedom.pivot as Triple}
        onKeep={(pivot) => onPut({ ...freedom, pivot })}
      />
      <Box sx={{ display: 'grid', gridTemplateColumns: '1.2fr 1fr 1fr 1fr', gap: 1, mt: 1.25 }}>
        <Choice<'freely' | 'steps'>
          label='It turns'
          width='100%'
          value={range.turns}
          options={[
            ['freely', 'freely'],
            ['steps', 'in steps'],
          ]}
          onChange={(turns) =>
            void onPut({
              ...freedom,
              turned: 0,
              range: turns === 'freely' ? { turns, from: -30, to: 30 } : { turns, step: 60, back: 1, on: 1 },
            })
          }
        />
        {range.turns === 'freely' ? (
          <>
            {field('From', range.from, 1, (from) => ({ ...freedom, range: { ...range, from } }))}
            {field('To', range.to, 1, (to) => ({ ...freedom, range: { ...range, to } }))}
          </>
        ) : (
          <>
            {field('One step', range.step, 1, (step) => ({ ...freedom, range: { ...range, step } }))}
            {field('Back', range.back, 0, (back) => ({ ...freedom, range: { ...range, back } }))}
            {field('On', range.on, 0, (on) => ({ ...freedom, range: { ...range, on } }))}
          </>
        )}
      </Box>
    </>
  );
}
