import { Box, Button, Typography } from '@mui/material';
import type { JointChange, JointWorkup, Workup } from '../api/generated/schema';
import { figure, length, sentence, useBench } from '../kit/bench';
import { LengthField } from '../kit/LengthField';
import { Row } from '../kit/Row';
import { SetOut } from '../kit/SetOut';
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
  const change = (to: JointChange) =>
    drawing.keep({ step: 'join', edit: 'change_joint', run, joint: joint.joint, to });
  const place = (from: 'start' | 'end') => (mm: number) =>
    change({ set: 'place', at: { leg: joint.straight, from, mm } });
  const bends = workup.bends.length;
  const leg = workup.straights.findIndex((one) => one.straight === joint.straight);
  const before = leg === 0 ? 'from the tube end at A' : `from bend ${leg}`;
  const after = leg === bends ? 'from the tube end at B' : `from bend ${leg + 1}`;
  const fields = [
    {
      name: 'Middle',
      aside: before,
      label: `Middle of the joint ${before}`,
      value: joint.from_start,
      onKeep: place('start'),
    },
    {
      name: 'Middle',
      aside: after,
      label: `Middle of the joint ${after}`,
      value: joint.from_end,
      onKeep: place('end'),
    },
    {
      name: 'Gap',
      aside: sentence(joint.gap_reason, unit),
      label: 'Gap between the tube ends',
      value: joint.gap,
      onKeep: (mm: number) => change({ set: 'gap', gap: mm }),
    },
    {
      name: 'Seat on tube',
      aside: `on each side; ${length(joint.straight_needed, unit)} with the bead`,
      label: 'Seat on each side',
      value: joint.seat,
      onKeep: (mm: number) => change({ set: 'seat', seat: mm }),
    },
  ];
  const takeOut = async () => {
    if (await drawing.keep({ step: 'join', edit: 'remove_joint', run, joint: joint.joint })) {
      select({ part: 'straight', run, straight: joint.straight });
    }
  };
  return (
    <>
      <Typography variant='h1' component='h2'>
        {joint.name}
      </Typography>
      <Typography variant='body2' color='textSecondary' sx={{ mb: 1 }}>
        The pipe is parted here: two tubes, each cut square, with a hose over both.
      </Typography>
      {fields.map(({ name, aside, label, value, onKeep }) => (
        <Row key={label} name={name} aside={aside}>
          <LengthField direct label={label} hideLabel value={value} onKeep={onKeep} />
        </Row>
      ))}
      <Row name='Cut the hose' aside='gap and both seats'>
        {figure(joint.hose, unit)} {unit}
      </Row>
      <Row name='Pushed apart' aside={`at ${workup.bar.toFixed(1)} bar`}>
        {joint.thrust_n.toFixed(0)} N
      </Row>
      <Box sx={{ py: 0.75, borderTop: `1px solid ${token.hairline}` }}>
        <Button variant='outlined' onClick={() => void takeOut()}>
          Take it out
        </Button>
      </Box>
      <SetOut part={{ part: 'joint', run, joint: joint.joint }} follows={workup} />
    </>
  );
}
