import { Box, Button, Typography } from '@mui/material';
import { useParams } from 'react-router';
import { answered, server, words } from '../api/client';
import type { Workup } from '../api/generated/schema';
import { figure, length, useBench } from '../kit/bench';
import { LengthField } from '../kit/LengthField';
import { NumberField } from '../kit/NumberField';
import { Row } from '../kit/Row';
import type { Drawing } from '../kit/useDrawing';
import { useLatest } from '../kit/useLatest';
import { dutyNames } from '../measure/names';
import { TubeChoice } from '../measure/TubeChoice';

interface Props {
  workup: Workup;
  drawing: Drawing;
}

/** The whole run: what it is made of and what it comes to. */
export function RunPad({ workup, drawing }: Props) {
  const unit = useBench((bench) => bench.unit);
  const { totals, run } = workup;
  const changeTube = useLatest(workup.decisions.tube, (tube) =>
    drawing.keep({ edit: 'set_tube', run, tube }),
  );
  return (
    <>
      <Typography variant='h1' component='h2'>
        {workup.name}
      </Typography>
      <Typography variant='body2' color='textSecondary' sx={{ mb: 1 }}>
        {dutyNames[workup.duty]}, from {workup.ends[0].name} to {workup.ends[1].name}. Pick a bend or a
        straight to change it.
      </Typography>
      <TubeChoice tube={workup.decisions.tube} od={workup.od} wall={workup.wall} onChange={changeTube} />
      <Row name='Bend radius' aside='of bends with none of their own'>
        <LengthField
          label='Bend radius of the run'
          hideLabel
          value={workup.radius}
          onKeep={(radius) => drawing.keep({ edit: 'set_radius', run, radius })}
        />
      </Row>
      {totals && (
        <>
          <Row name='Tube' aside={`${length(totals.mouth_to_mouth, unit)} mouth to mouth`}>
            {figure(totals.developed, unit)} {unit}
          </Row>
          <Row name='Mass' aside={`${totals.litres.toFixed(2)} litres inside`}>
            {totals.mass_kg.toFixed(2)} kg
          </Row>
        </>
      )}
      <Row name='Insulation' aside='wrapped round the tube'>
        <NumberField
          label='Insulation'
          hideLabel
          unit='mm'
          value={workup.decisions.insulation ?? 0}
          onKeep={(mm) => drawing.keep({ edit: 'set_insulation', run, insulation: mm === 0 ? null : mm })}
        />
      </Row>
    </>
  );
}

/** The pipe for other programs, and a bender's table back from one. */
export function Elsewhere({ workup, drawing }: Props) {
  const { id } = useParams();
  const base = `/api/jobs/${id}/runs/${workup.run}`;
  const take = async (file: File | undefined) => {
    if (!file) return;
    try {
      const params = { path: { id: Number(id), run: workup.run } };
      const body = await file.text();
      const raw = { params, body, bodySerializer: (text: unknown) => text as string };
      await drawing.keep(await answered(server.POST('/api/jobs/{id}/runs/{run}/lra.csv', raw)));
    } catch (error) {
      drawing.say(words(error));
    }
  };
  return (
    <Box component='section' aria-label='Elsewhere' sx={{ mt: 1.5 }}>
      <Typography variant='h2' component='h2' sx={{ mb: 0.5 }}>
        Elsewhere
      </Typography>
      <Box sx={{ display: 'flex', flexWrap: 'wrap', gap: 0.75 }}>
        {(['step', 'stl', 'glb', 'dxf'] as const).map((form) => (
          <Button key={form} variant='outlined' href={`${base}/pipe/${form}`}>
            {form.toUpperCase()}
          </Button>
        ))}
        <Button variant='outlined' href={`${base}/lra.csv`}>
          Bender table
        </Button>
        <Button variant='outlined' component='label'>
          Read a table
          <input
            type='file'
            accept='.csv,text/csv'
            hidden
            aria-label='A bender table to read'
            onChange={(event) => {
              void take(event.target.files?.[0]);
              event.target.value = '';
            }}
          />
        </Button>
      </Box>
    </Box>
  );
}
