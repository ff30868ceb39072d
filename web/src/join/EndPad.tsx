import { Box, Typography } from '@mui/material';
import type { End, JointChange, Workup } from '../api/generated/schema';
import { figure, length, sentence, useBench } from '../kit/bench';
import { Choice } from '../kit/Choice';
import { LengthField } from '../kit/LengthField';
import { Row } from '../kit/Row';
import type { Drawing } from '../kit/useDrawing';
import { jointNames, options } from '../measure/names';
import { HoseEnd } from './HoseEnd';
import { JointFacts } from './JointFacts';
import { JointHolds } from './JointHolds';
import { PlateFields } from './PlateFields';

interface Props {
  workup: Workup;
  end: End;
  drawing: Drawing;
}

/** One end: how it meets its port, what hose to cut, and whether the hose has its seat. */
export function EndPad({ workup, end: which, drawing }: Props) {
  const unit = useBench((bench) => bench.unit);
  const end = workup.ends.find((candidate) => candidate.end === which);
  if (!end) return null;
  const { run } = workup;
  const change = (to: JointChange) =>
    drawing.keep({ step: 'join', edit: 'change_joint', run, joint: end.joint_id, to });
  const letter = which.toUpperCase();
  return (
    <Box component='section' aria-label={`End ${letter}`}>
      <Box sx={{ display: 'flex', alignItems: 'baseline', justifyContent: 'space-between', mb: 1 }}>
        <Typography variant='h1' component='h2'>
          End {letter}
        </Typography>
        <Typography variant='body2' color='textSecondary'>
          {end.name}
        </Typography>
      </Box>
      <Row
        name='Joint'
        aside={
          workup.hose
            ? `port ${length(end.port_od, unit)}, hose ${length(workup.hose.bore, unit)} inside`
            : `port ${length(end.port_od, unit)}, tube ${length(workup.od, unit)}`
        }
      >
        <Choice
          label={`Joint at ${letter}`}
          hideLabel
          width={186}
          value={end.joint}
          options={options(jointNames).filter(([kind]) => workup.kinds.some((offer) => offer.kind === kind))}
          onChange={(kind) => change({ set: 'kind', kind })}
        />
      </Row>
      {end.joint === 'hose_end' && <HoseEnd workup={workup} end={which} drawing={drawing} />}
      {end.figures && end.joint !== 'hose_end' && (
        <JointFacts
          workup={workup}
          kind={end.joint}
          figures={end.figures}
          name={`joint ${letter}`}
          onChange={change}
        />
      )}
      {!end.hose && end.gap.mm > 0 && (
        <Row name='Length' aside='of the centre line'>
          {figure(end.gap, unit)} {unit}
        </Row>
      )}
      {end.hose && (
        <>
          <Row name='Cut the hose' aside='gap and both seats'>
            {figure(end.hose, unit)} {unit}
          </Row>
          <Row name='Gap' aside={sentence(end.gap_reason, unit)}>
            <LengthField
              direct
              label={`Gap at ${letter}`}
              hideLabel
              value={end.gap}
              onKeep={(gap) => change({ set: 'gap', gap })}
            />
          </Row>
          <Row name='Seat on tube' aside={`${length(end.port_seat, unit)} on the port`}>
            <LengthField
              direct
              label={`Seat at ${letter}`}
              hideLabel
              value={end.seat}
              onKeep={(seat) => change({ set: 'seat', seat })}
            />
          </Row>
          <Row name='Straight left' aside={`hose and bead want ${length(end.straight_needed, unit)}`}>
            {end.straight_have ? `${figure(end.straight_have, unit)} ${unit}` : 'none'}
          </Row>
        </>
      )}
      {end.figures?.port_half && (
        <Row
          name='Half on the port'
          aside={`${end.figures.port_half}, as the port; the other is as the tube`}
        >
          <Box component='span' sx={{ fontSize: 15 }}>
            two metals
          </Box>
        </Row>
      )}
      {end.figures?.takes_plate && (
        <PlateFields
          workup={workup}
          joint={end.joint_id}
          figures={end.figures}
          onChange={(plate) => change({ set: 'plate', plate })}
        />
      )}
      {end.figures && (
        <JointHolds
          workup={workup}
          kind={end.joint}
          figures={end.figures}
          name={`joint ${letter}`}
          onChange={change}
        />
      )}
    </Box>
  );
}
