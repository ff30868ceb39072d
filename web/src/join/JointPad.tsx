import { Box, Button, Typography } from '@mui/material';
import type { JointChange, JointWorkup, Workup } from '../api/generated/schema';
import { length, useBench } from '../kit/bench';
import { LengthField } from '../kit/LengthField';
import { Row } from '../kit/Row';
import type { Drawing } from '../kit/useDrawing';
import { token } from '../theme';

interface Props {
  workup: Workup;
  joint: JointWorkup;
  drawing: Drawing;
}

/** A joint between the ends of the pipe. */
export function JointPad({ workup, joint, drawing }: Props) {
  const { unit, select } = useBench();
  const { run } = workup;
  const change = (to: JointChange) => drawing.keep({ edit: 'change_joint', run, joint: joint.joint, to });
  const place = (from: 'start' | 'end') => (mm: number) =>
    change({ set: 'place', at: { leg: joint.straight, from, mm } });
  const bends = workup.bends.length;
  const before = joint.straight === 0 ? 'from the tube end at A' : `from bend ${joint.straight}`;
  const after = joint.straight === bends ? 'from the tube end at B' : `from bend ${joint.straight + 1}`;
  const takeOut = async () => {
    if (await drawing.keep({ edit: 'remove_joint', run, joint: joint.joint })) {
      select({ part: 'straight', straight: joint.straight });
    }
  };
  return (
    <>
      <Typography variant='h1' component='h2'>
        {joint.name}
      </Typography>
      <Typography variant='body2' color='textSecondary' sx={{ mb: 1 }}>
        The pipe is parted here: two tubes, each cut square, with a hose of {length(joint.hose, unit)} over
        both.
      </Typography>
      <Row name='Middle' aside={before}>
        <LengthField
          label={`Middle of the joint ${before}`}
          hideLabel
          value={joint.from_start}
          onKeep={place('start')}
        />
      </Row>
      <Row name='Middle' aside={after}>
        <LengthField
          label={`Middle of the joint ${after}`}
          hideLabel
          value={joint.from_end}
          onKeep={place('end')}
        />
      </Row>
      <Row name='Gap' aside={joint.gap_chosen ? 'as you chose' : 'usual for this pipe'}>
        <LengthField
          label='Gap between the tube ends'
          hideLabel
          value={joint.gap}
          onKeep={(mm) => change({ set: 'gap', gap: mm })}
        />
      </Row>
      <Row name='Hose sits' aside='on each side'>
        <LengthField
          label='Seat on each side'
          hideLabel
          value={joint.seat}
          onKeep={(mm) => change({ set: 'seat', seat: mm })}
        />
      </Row>
      <Row name='Hose wants' aside='of straight on each side, bead included'>
        {length(joint.straight_needed, unit)}
      </Row>
      <Row name='Pushed apart by' aside={`at ${workup.bar.toFixed(2)} bar`}>
        {joint.thrust_n.toFixed(0)} N
      </Row>
      <Box sx={{ py: 0.75, borderTop: `1px solid ${token.hairline}` }}>
        <Button variant='outlined' onClick={() => void takeOut()}>
          Take it out
        </Button>
      </Box>
    </>
  );
}
