import { Box, Button, Typography } from '@mui/material';
import { useState } from 'react';
import { useParams } from 'react-router';
import { answered, asItIs, server, words } from '../api/client';
import type { DualUnitText, Workup } from '../api/generated/schema';
import { figure, length, sentence, useBench } from '../kit/bench';
import { Choice } from '../kit/Choice';
import { LengthField } from '../kit/LengthField';
import { NumberField } from '../kit/NumberField';
import { Row } from '../kit/Row';
import type { Drawing } from '../kit/useDrawing';
import { BuiltOf } from '../measure/HoseChoice';
import { NameField } from '../measure/NameField';
import { dutyNames } from '../measure/names';

interface Props {
  workup: Workup;
  drawing: Drawing;
}

/** The whole run: what it is made of and what it comes to. */
export function RunPad({ workup, drawing }: Props) {
  const unit = useBench((bench) => bench.unit);
  const { totals, run } = workup;
  return (
    <>
      <Typography variant='h1' component='h2'>
        {workup.name}
      </Typography>
      <Typography variant='body2' color='textSecondary' sx={{ mb: 1 }}>
        {dutyNames[workup.duty]}, from {workup.ends[0].name} to {workup.ends[1].name}. Pick a bend or a
        straight to change it.
      </Typography>
      <BuiltOf workup={workup} drawing={drawing} />
      <Row name='Bend radius' aside='of bends with none of their own'>
        <LengthField
          direct
          label='Bend radius of the run'
          hideLabel
          value={workup.radius}
          onKeep={(radius) => drawing.keep({ step: 'route', edit: 'set_radius', run, radius })}
        />
      </Row>
      {totals && (
        <>
          <Row
            name={workup.hose ? 'Hose' : 'Tube'}
            aside={`${length(totals.mouth_to_mouth, unit)} mouth to mouth`}
          >
            {figure(totals.developed, unit)} {unit}
          </Row>
          <Row name='Mass' aside={`${totals.litres.toFixed(2)} litres inside`}>
            {totals.mass_kg.toFixed(2)} kg
          </Row>
        </>
      )}
      <Row name='Marked' aside='on the metal, before the number'>
        <NameField
          label='Mark of the run'
          value={workup.mark}
          hideLabel
          most={4}
          onKeep={(mark) => drawing.keep({ step: 'job', edit: 'set_mark', run, mark: mark.toUpperCase() })}
        />
      </Row>
      <Row name='Drains' aside='by its own weight, so that it must fall all the way'>
        <Choice
          label='Drains by gravity'
          hideLabel
          width={150}
          value={workup.decisions.drains ?? 'no'}
          options={[
            ['no', 'no'],
            ['a', 'towards A'],
            ['b', 'towards B'],
          ]}
          onChange={(to) =>
            drawing.keep({ step: 'spec', edit: 'set_drains', run, to: to === 'no' ? null : to })
          }
        />
      </Row>
      <Row name='Insulation' aside='wrapped round the tube'>
        <NumberField
          label='Insulation'
          hideLabel
          unit='mm'
          value={workup.decisions.insulation ?? 0}
          onKeep={(mm) =>
            drawing.keep({ step: 'spec', edit: 'set_insulation', run, insulation: mm === 0 ? null : mm })
          }
        />
      </Row>
    </>
  );
}

/** The pipe for other programs, and a bender's table back from one. */
export function Elsewhere({ workup, drawing }: Props) {
  const { id } = useParams();
  const unit = useBench((bench) => bench.unit);
  const [changes, setChanges] = useState<DualUnitText[]>();
  const base = `/api/jobs/${id}/runs/${workup.run}`;
  const take = async (file: File | undefined) => {
    if (!file) return;
    try {
      const params = { path: { id: Number(id), run: workup.run } };
      const raw = { params, ...asItIs(file) };
      const taken = await answered(server.POST('/api/jobs/{id}/runs/{run}/lra.csv', raw));
      setChanges(undefined);
      if (await drawing.keep(taken.edit)) setChanges(taken.changes);
    } catch (error) {
      drawing.say(`${file.name}: ${words(error)}`);
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
            accept='.csv,.txt,.tsv,text/csv,text/plain,text/tab-separated-values'
            hidden
            aria-label='A bender table to read'
            onChange={(event) => {
              void take(event.target.files?.[0]);
              event.target.value = '';
            }}
          />
        </Button>
      </Box>
      {changes && (
        <Box role='status' sx={{ mt: 1, fontSize: 13.5, lineHeight: 1.35 }}>
          {changes.length === 0
            ? 'Taken. Nothing in it differs from the pipe as it was.'
            : 'Taken. It changed:'}
          <Box component='ul' sx={{ m: 0, pl: 2.5 }}>
            {changes.map((change) => (
              <li key={change.mm}>{sentence(change, unit)}</li>
            ))}
          </Box>
        </Box>
      )}
    </Box>
  );
}
