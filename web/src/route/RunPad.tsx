import { Typography } from '@mui/material';
import type { Workup } from '../api/generated/schema';
import { figure, length, useBench } from '../kit/bench';
import { LengthField } from '../kit/LengthField';
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
    </>
  );
}
