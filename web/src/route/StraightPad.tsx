import { Box, Button, Typography } from '@mui/material';
import type { Edit, Workup } from '../api/generated/schema';
import { degrees, length, useBench } from '../kit/bench';
import { LengthField } from '../kit/LengthField';
import { Row } from '../kit/Row';
import type { Drawing } from '../kit/useDrawing';
import { placedAt } from '../rod/placedAt';
import { token } from '../theme';
import { LockButton } from './LockButton';
import { WrapRow } from './WrapRow';

const legWays = [
  ['level', 'Level'],
  ['plumb', 'Plumb'],
  ['lengthwise', 'Lengthwise'],
  ['across', 'Across'],
] as const;

interface Props {
  workup: Workup;
  index: number;
  drawing: Drawing;
}

/** One straight of tube. */
export function StraightPad({ workup, index, drawing }: Props) {
  const unit = useBench((bench) => bench.unit);
  const straight = workup.straights[index];
  if (!straight) return null;
  const last = workup.straights.length - 1;
  const inner = index > 0 && index < last;
  const end = index === 0 ? workup.ends[0] : index === last ? workup.ends[1] : undefined;
  const coupler: Edit = {
    step: 'join',
    edit: 'add_joint',
    run: workup.run,
    at: placedAt(workup, (straight.from.mm + straight.to.mm) / 2),
    kind: 'coupler',
  };
  return (
    <>
      <Typography variant='h1' component='h2'>
        Straight {index + 1} of {workup.straights.length}
      </Typography>
      <Typography variant='body2' color='textSecondary' sx={{ mb: 1 }}>
        From {length(straight.from, unit)} to {length(straight.to, unit)} along the tube from A.
      </Typography>
      <Row name='Length' aside='tangent to tangent'>
        <LengthField
          direct
          label={`Length of straight ${index + 1}`}
          hideLabel
          value={straight.length}
          onKeep={(mm) =>
            drawing.keep({
              step: 'route',
              edit: 'reshape',
              run: workup.run,
              target: { figure: 'straight', straight: straight.straight, length: mm },
            })
          }
        />
        <LockButton
          workup={workup}
          drawing={drawing}
          lock={{ hold: 'straight', straight: straight.straight, length: straight.length.mm }}
        />
      </Row>
      <Row name='Slope' aside={straight.pitch >= 0 ? 'rising from A to B' : 'falling from A to B'}>
        {degrees(Math.abs(straight.pitch))}
        {inner && (
          <LockButton
            workup={workup}
            drawing={drawing}
            lock={{ hold: 'leg', leg: straight.straight, direction: straight.along }}
          />
        )}
      </Row>
      <WrapRow
        workup={workup}
        drawing={drawing}
        stretch={{ on: 'leg', leg: straight.straight }}
        wrapped={straight.wrapped}
        chosen={straight.wrapped_chosen}
        name={`straight ${index + 1}`}
      />
      {inner && (
        <Box
          sx={{
            display: 'flex',
            flexWrap: 'wrap',
            gap: 0.75,
            py: 0.75,
            borderTop: `1px solid ${token.hairline}`,
          }}
        >
          {legWays.map(([runs, name]) => (
            <Button
              key={runs}
              variant='outlined'
              onClick={() =>
                drawing.keep({
                  step: 'route',
                  edit: 'reshape',
                  run: workup.run,
                  target: { figure: 'leg_way', leg: straight.straight, way: { runs } },
                })
              }
            >
              {name}
            </Button>
          ))}
        </Box>
      )}
      <Box sx={{ py: 0.75, borderTop: `1px solid ${token.hairline}` }}>
        <Button
          variant='outlined'
          onClick={() =>
            drawing.keep({
              step: 'route',
              edit: 'add_bend',
              run: workup.run,
              leg: straight.straight,
              at: straight.new_bend,
            })
          }
        >
          Put a bend in here
        </Button>
        <Button variant='outlined' sx={{ ml: 0.75 }} onClick={() => void drawing.keep(coupler)}>
          Part it with a coupler
        </Button>
      </Box>
      {end && (
        <Row name='Hose wants' aside={end.hose ? 'seat and bead' : 'no hose at this end'}>
          {length(end.straight_needed, unit)}
        </Row>
      )}
    </>
  );
}
