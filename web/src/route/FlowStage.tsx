import { Box, Button, ButtonBase, Typography } from '@mui/material';
import { useState } from 'react';
import type { Figure, FlowAmount, SizeBeside, Workup } from '../api/generated/schema';
import { figure, useBench } from '../kit/bench';
import { Choice } from '../kit/Choice';
import { NumberField } from '../kit/NumberField';
import { Row } from '../kit/Row';
import type { Drawing } from '../kit/useDrawing';
import { token } from '../theme';

interface Props {
  workup: Workup;
  drawing: Drawing;
}

type By = FlowAmount['by'] | 'usual';
const airBy: readonly (readonly [By, string])[] = [
  ['usual', 'As is usual'],
  ['power', 'By power'],
  ['mass', 'By mass flow'],
];
const liquidBy: readonly (readonly [By, string])[] = [
  ['usual', 'As is usual'],
  ['volume', 'By litres a minute'],
];

/** What flows, what it costs, and the same for the sizes beside. */
export function FlowStage({ workup, drawing }: Props) {
  const { flow, decisions, run, duty } = workup;
  const said = decisions.flow ?? {};
  const set = (amount: FlowAmount | null) =>
    drawing.keep({ step: 'spec', edit: 'set_flow', run, flow: { ...said, amount } });
  const by: By = said.amount?.by ?? 'usual';
  if (!flow) {
    return (
      <>
        <Typography variant='body2' sx={{ mb: 1 }}>
          Nothing can be said of the flow: the way does not join the ports, or what was said does not suit
          what the pipe carries.
        </Typography>
        <Button
          variant='outlined'
          onClick={() => drawing.keep({ step: 'spec', edit: 'set_flow', run, flow: {} })}
        >
          Back to what is usual
        </Button>
      </>
    );
  }
  return (
    <>
      <Box sx={{ display: 'flex', alignItems: 'baseline', justifyContent: 'space-between' }}>
        <Typography variant='h1' component='h2'>
          Flow
        </Typography>
        <Box sx={{ fontSize: 26, fontWeight: 700, color: token.dye }}>{flow.loss_kpa.toFixed(2)} kPa</Box>
      </Box>
      <Typography variant='body2' color='textSecondary' sx={{ mb: 1 }}>
        Lost between the mouths. {flow.surface}.
      </Typography>
      <Row name='How much' aside={`${flow.kg_per_s.toFixed(3)} kg/s`}>
        <Choice
          label='How the flow is said'
          hideLabel
          value={by}
          options={duty === 'coolant' || duty === 'oil' ? liquidBy : airBy}
          width={150}
          onChange={(next) => {
            const start: Record<By, FlowAmount | null> = {
              usual: null,
              power: { by: 'power', hp: Math.round(flow.kg_per_s * 1330) },
              mass: { by: 'mass', kg_per_s: Number(flow.kg_per_s.toFixed(3)) },
              volume: { by: 'volume', litres_per_min: Math.max(1, Math.round(flow.kg_per_s * 58)) },
            };
            return set(start[next]);
          }}
        />
      </Row>
      <Because>{flow.flow_reason}</Because>
      {said.amount?.by === 'power' && (
        <Row name='Power' aside='1330 hp for each kg/s'>
          <NumberField
            label='Power'
            hideLabel
            unit='hp'
            digits={0}
            value={said.amount.hp}
            onKeep={(hp) => set({ by: 'power', hp })}
          />
        </Row>
      )}
      {said.amount?.by === 'mass' && (
        <Row name='Mass flow'>
          <NumberField
            label='Mass flow'
            hideLabel
            unit='kg/s'
            digits={3}
            value={said.amount.kg_per_s}
            onKeep={(kg_per_s) => set({ by: 'mass', kg_per_s })}
          />
        </Row>
      )}
      {said.amount?.by === 'volume' && (
        <Row name='Litres a minute'>
          <NumberField
            label='Litres a minute'
            hideLabel
            unit='l/min'
            value={said.amount.litres_per_min}
            onKeep={(litres_per_min) => set({ by: 'volume', litres_per_min })}
          />
        </Row>
      )}
      <Row name='Temperature'>
        <NumberField
          label='Temperature'
          hideLabel
          unit='°C'
          digits={0}
          value={flow.celsius}
          onKeep={(temperature) =>
            drawing.keep({ step: 'spec', edit: 'set_flow', run, flow: { ...said, temperature } })
          }
        />
      </Row>
      <Because>{flow.celsius_reason}</Because>
      <Sizes
        sizes={flow.sizes}
        onTake={(size) => drawing.keep({ step: 'spec', edit: 'set_tube', run, tube: size.tube })}
      />
      <Typography variant='h2' component='h2' sx={{ mt: 1.5 }}>
        Figures
      </Typography>
      <Typography variant='body2' color='textSecondary'>
        Press one for its sum.
      </Typography>
      {flow.figures.map((one) => (
        <Sum key={one.name} figure={one} />
      ))}
    </>
  );
}

/** Where a figure is from, under it. */
function Because({ children }: { children: string }) {
  return (
    <Typography
      variant='body2'
      color='textSecondary'
      sx={{ mt: -0.25, mb: 0.75, lineHeight: 1.3, fontSize: 13 }}
    >
      {children}
    </Typography>
  );
}

function Sum({ figure: { name, value, sum, source } }: { figure: Figure }) {
  const [open, setOpen] = useState(false);
  return (
    <Box sx={{ borderTop: `1px solid ${token.hairline}` }}>
      <ButtonBase
        aria-expanded={open}
        onClick={() => setOpen(!open)}
        sx={{ width: '100%', justifyContent: 'space-between', py: 0.5, fontSize: 15 }}
      >
        <span>{name}</span>
        <strong>{value}</strong>
      </ButtonBase>
      {open && (
        <Box sx={{ pb: 0.75, fontSize: 13.5, lineHeight: 1.4 }}>
          {sum}
          <Box component='span' sx={{ display: 'block', color: token.inkSoft }}>
            {source}
          </Box>
        </Box>
      )}
    </Box>
  );
}

function Sizes({ sizes, onTake }: { sizes: SizeBeside[]; onTake: (size: SizeBeside) => void }) {
  const unit = useBench((bench) => bench.unit);
  const air = sizes.some((size) => size.mach != null);
  return (
    <Box
      component='table'
      aria-label='The same pipe in other sizes'
      sx={{
        width: '100%',
        mt: 1.25,
        borderCollapse: 'collapse',
        fontSize: 14,
        '& th, & td': { textAlign: 'right', py: 0.45, borderTop: `1px solid ${token.hairline}` },
        '& th:first-of-type': { textAlign: 'left' },
      }}
    >
      <thead>
        <tr>
          <th scope='col'>Size, {unit}</th>
          <th scope='col'>m/s</th>
          {air && <th scope='col'>Mach</th>}
          <th scope='col'>kPa</th>
          <th scope='col'>litres</th>
          <th scope='col'>kg</th>
          <th scope='col'> </th>
        </tr>
      </thead>
      <tbody>
        {sizes.map((size) => (
          <Box component='tr' key={size.od.mm} sx={{ bgcolor: size.now ? token.strawPaper : undefined }}>
            <th scope='row' title={size.name}>
              {figure(size.od, unit)}
            </th>
            <td>{size.speed.toFixed(1)}</td>
            {air && (
              <Box
                component='td'
                sx={{ color: size.warning ? token.fouls : undefined }}
                title={size.warning ?? ''}
              >
                {size.warning ? '▲ ' : ''}
                {size.mach?.toFixed(2)}
              </Box>
            )}
            <td>{size.loss_kpa.toFixed(2)}</td>
            <td>{size.litres.toFixed(2)}</td>
            <td>{size.mass_kg.toFixed(2)}</td>
            <td>
              {size.now ? (
                'now'
              ) : (
                <Button variant='text' sx={{ p: 0, minWidth: 0 }} onClick={() => onTake(size)}>
                  Take
                </Button>
              )}
            </td>
          </Box>
        ))}
      </tbody>
    </Box>
  );
}
