import { Box, Typography } from '@mui/material';
import type { GiveTaken, JointKind, PartRef, Workup } from '../api/generated/schema';
import { degrees } from '../kit/bench';
import { jointNames } from '../measure/names';
import { token } from '../theme';
import { JointSign } from './JointSign';
import { ListRow } from './ListRow';
import { UseBar } from './UseBar';

interface Line {
  part: PartRef;
  name: string;
  kind: JointKind;
  takes: GiveTaken | null | undefined;
}

/** Every joint from A to B with how much of its give it takes; a press opens one. */
export function MovesList({ workup }: { workup: Workup }) {
  const { run, ends, joints } = workup;
  const end = (at: 0 | 1): Line => ({
    part: { part: 'end', run, end: ends[at].end },
    name: `${ends[at].end.toUpperCase()}, ${ends[at].name}`,
    kind: ends[at].joint,
    takes: ends[at].figures?.takes,
  });
  const between = joints.map(
    (joint): Line => ({
      part: { part: 'joint', run, joint: joint.joint },
      name: joint.name.replace(/^.* on /, 'On '),
      kind: joint.kind,
      takes: joint.figures.takes,
    }),
  );
  const rolled = [...joints.map((joint) => joint.figures), ...ends.map((one) => one.figures)].some(
    (figures) => (figures?.takes?.roll ?? 0) !== 0,
  );
  return (
    <Box component='section' aria-label='What the joints take' sx={{ mb: 1.5 }}>
      <Box sx={{ display: 'flex', justifyContent: 'space-between', alignItems: 'baseline' }}>
        <Typography variant='h2'>What the joints take</Typography>
        <Typography variant='body2' color='textSecondary'>
          {rolled ? 'of what they give, the engine moving' : 'of what they give'}
        </Typography>
      </Box>
      {[end(0), ...between, end(1)].map(({ part, name, kind, takes }) => (
        <ListRow
          key={JSON.stringify(part)}
          part={part}
          sign={<JointSign kind={kind} />}
          name={name}
          below={`${jointNames[kind]}${takes && takes.roll !== 0 ? ` · worst at ${degrees(Math.abs(takes.roll))}` : ''}`}
        >
          {takes ? (
            <UseBar share={takes.share} slim />
          ) : (
            <Box sx={{ fontSize: 13, color: token.inkSoft }}>gives nothing</Box>
          )}
        </ListRow>
      ))}
    </Box>
  );
}
