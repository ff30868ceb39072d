import { Box, Checkbox, FormControlLabel } from '@mui/material';
import type { End, HoseFitting, Workup } from '../api/generated/schema';
import { figure, length, useBench } from '../kit/bench';
import { Choice } from '../kit/Choice';
import { Row } from '../kit/Row';
import type { Drawing } from '../kit/useDrawing';
import { useLatest } from '../kit/useLatest';
import { ClockRow } from './ClockRow';

const ANGLES = ['0', '30', '45', '60', '90', '120', '150', '180'].map(
  (angle) => [angle, angle === '0' ? 'straight' : `${angle}°`] as const,
);

interface Props {
  workup: Workup;
  end: End;
  drawing: Drawing;
}

/** The end of a hose: its fitting and how that is turned, or how far it is pushed onto its mouth. */
export function HoseEnd({ workup, end: which, drawing }: Props) {
  const unit = useBench((bench) => bench.unit);
  const at = which === 'a' ? 0 : 1;
  const end = workup.ends[at];
  const { hose } = workup.decisions;
  const told = workup.hose?.fittings[at];
  // One change after the other, each on what the one before it made.
  const put = useLatest(hose, (to) =>
    to
      ? drawing.keep({ step: 'spec', edit: 'set_hose', run: workup.run, hose: to })
      : Promise.resolve(undefined),
  );
  if (hose?.build !== 'threaded') {
    return (
      <Row name='Pushed on' aside='over the mouth, then clamped behind its bead'>
        {figure(end.port_seat, unit)} {unit}
      </Row>
    );
  }
  const fitting = hose.fittings[at];
  const change = (to: Partial<HoseFitting>) =>
    put((now) => {
      if (now?.build !== 'threaded') return now;
      const changed = { ...now.fittings[at], ...to };
      const fittings: [HoseFitting, HoseFitting] =
        at === 0 ? [changed, now.fittings[1]] : [now.fittings[0], changed];
      return { ...now, fittings };
    });
  const letter = which.toUpperCase();
  return (
    <Box>
      <Row name='Fitting' aside={`${hose.dash}, nut on the thread`}>
        <Choice
          label={`Fitting at ${letter}`}
          hideLabel
          width={130}
          value={String(fitting.angle)}
          options={ANGLES}
          onChange={(angle) => change({ angle: Number(angle) })}
        />
      </Row>
      {told?.clock != null && (
        <ClockRow
          name='Turned to'
          label={`Clock of the fitting at ${letter}`}
          clock={told.clock}
          held={told.clock_chosen}
          aside={told.clock_chosen ? 'from up, as you set it' : 'from up, towards the other end'}
          free='Towards the other end'
          onHold={(clock) => change({ clock })}
        />
      )}
      <Row name='Swivels' aside='turns in its nut once the hose is made up'>
        <FormControlLabel
          label=''
          sx={{ m: 0 }}
          control={
            <Checkbox
              size='small'
              checked={fitting.swivels}
              slotProps={{ input: { 'aria-label': `The fitting at ${letter} swivels` } }}
              onChange={(_, swivels) => change({ swivels })}
            />
          }
        />
      </Row>
      {told && (
        <Row name='Cut-off' aside={`hose ${length(told.socket, unit)} into its socket; mark it there`}>
          {figure(told.cut_off, unit)} {unit}
        </Row>
      )}
      <Row name='Straight' aside={`${length(end.straight_needed, unit)} wanted before it bends`}>
        {end.straight_have ? `${figure(end.straight_have, unit)} ${unit}` : 'none'}
      </Row>
    </Box>
  );
}
