import { Box, Button, Typography } from '@mui/material';
import type { JointChange, JointWorkup, Workup } from '../api/generated/schema';
import { figure, length, sentence, useBench } from '../kit/bench';
import { Choice } from '../kit/Choice';
import { LengthField } from '../kit/LengthField';
import { Row } from '../kit/Row';
import { SetOut } from '../kit/SetOut';
import type { Drawing } from '../kit/useDrawing';
import { jointNames, options } from '../measure/names';
import { token } from '../theme';
import { AlongRows } from './AlongRows';
import { ElbowRows } from './ElbowRows';
import { JointFacts } from './JointFacts';
import { JointHolds } from './JointHolds';
import { PlateFields } from './PlateFields';

interface Props {
  workup: Workup;
  joint: JointWorkup;
  drawing: Drawing;
}

/** A joint between the ends of the pipe. */
export function JointPad({ workup, joint, drawing }: Props) {
  const { unit, select } = useBench();
  const { run } = workup;
  const change = (to: JointChange) =>
    drawing.keep({ step: 'join', edit: 'change_joint', run, joint: joint.joint, to });
  const hose = joint.hose ?? undefined;
  const fields = [];
  const chosen = hose !== undefined || joint.kind === 'bellows';
  if (chosen && !joint.elbow) {
    fields.push({
      name: joint.kind === 'bellows' ? 'Length' : 'Gap',
      aside: sentence(joint.gap_reason, unit),
      label: 'Gap between the tube ends',
      value: joint.gap,
      onKeep: (mm: number) => change({ set: 'gap', gap: mm }),
    });
  }
  if (hose) {
    fields.push({
      name: 'Seat on tube',
      aside: `on each side; ${length(joint.straight_needed, unit)} with the bead`,
      label: 'Seat on each side',
      value: joint.seat,
      onKeep: (mm: number) => change({ set: 'seat', seat: mm }),
    });
  }
  const takeOut = async () => {
    if (await drawing.keep({ step: 'join', edit: 'remove_joint', run, joint: joint.joint })) {
      const { elbow } = joint;
      select(
        elbow ? { part: 'bend', run, bend: elbow.bend } : { part: 'straight', run, straight: joint.straight },
      );
    }
  };
  return (
    <>
      <Typography variant='h1' component='h2'>
        {joint.name}
      </Typography>
      {joint.elbow ? (
        <ElbowRows joint={joint} />
      ) : (
        <Row name='Joint' aside={`tube ${length(workup.od, unit)}`}>
          <Choice
            label='Kind of joint'
            hideLabel
            width={186}
            value={joint.kind}
            options={options(jointNames).filter(([kind]) =>
              workup.kinds.some((offer) => offer.kind === kind && offer.along),
            )}
            onChange={(kind) => change({ set: 'kind', kind })}
          />
        </Row>
      )}
      <JointFacts
        workup={workup}
        kind={joint.kind}
        figures={joint.figures}
        name={joint.name}
        onChange={change}
      />
      {!joint.elbow && (
        <AlongRows
          workup={workup}
          what='joint'
          straight={joint.straight}
          fromStart={joint.from_start}
          fromEnd={joint.from_end}
          onPlace={(at) => change({ set: 'place', at })}
        />
      )}
      {fields.map(({ name, aside, label, value, onKeep }) => (
        <Row key={label} name={name} aside={aside}>
          <LengthField direct label={label} hideLabel value={value} onKeep={onKeep} />
        </Row>
      ))}
      {hose ? (
        <Row
          name={joint.elbow ? 'Along its middle' : 'Cut the hose'}
          aside={joint.elbow ? 'both legs and its bend' : 'gap and both seats'}
        >
          {figure(hose, unit)} {unit}
        </Row>
      ) : (
        <Row name='Length' aside='of the centre line'>
          {figure(joint.gap, unit)} {unit}
        </Row>
      )}
      {joint.figures.takes_plate && (
        <PlateFields
          workup={workup}
          joint={joint.joint}
          figures={joint.figures}
          onChange={(plate) => change({ set: 'plate', plate })}
        />
      )}
      <JointHolds
        workup={workup}
        kind={joint.kind}
        figures={joint.figures}
        name={joint.name}
        onChange={change}
      />
      <Box sx={{ py: 0.75, borderTop: `1px solid ${token.hairline}` }}>
        <Button variant='outlined' onClick={() => void takeOut()}>
          {joint.elbow ? 'Make the bend of tube' : 'Take it out'}
        </Button>
      </Box>
      <SetOut part={{ part: 'joint', run, joint: joint.joint }} follows={workup} />
    </>
  );
}
