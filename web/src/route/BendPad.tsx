import { Box, Button, ToggleButton, ToggleButtonGroup, Typography } from '@mui/material';
import type { Workup } from '../api/generated/schema';
import { degrees, figure, length, sentence, useBench } from '../kit/bench';
import { LengthField } from '../kit/LengthField';
import { NumberField } from '../kit/NumberField';
import { Row } from '../kit/Row';
import type { Drawing } from '../kit/useDrawing';
import { token } from '../theme';
import { LockButton } from './LockButton';

interface Props {
  workup: Workup;
  index: number;
  drawing: Drawing;
}

/** Everything about one bend; every number that is a decision can be typed. */
export function BendPad({ workup, index, drawing }: Props) {
  const unit = useBench((bench) => bench.unit);
  const bend = workup.bends[index];
  if (!bend) return null;
  const { run } = workup;
  const spec = workup.decisions.way?.bends[index];
  const setSeams = (seams: number | null) => drawing.keep({ edit: 'set_seams', run, bend: index, seams });
  return (
    <>
      <Box sx={{ display: 'flex', alignItems: 'baseline', justifyContent: 'space-between' }}>
        <Typography variant='h1' component='h2'>
          Bend {index + 1} of {workup.bends.length}
        </Typography>
        <Box sx={{ fontSize: 26, fontWeight: 700, color: token.dye }}>{degrees(bend.angle)}</Box>
      </Box>
      <Typography variant='body2' color='textSecondary' sx={{ mb: 1 }}>
        {sentence(bend.words, unit)}
      </Typography>
      <Row name='Angle' aside={`setback ${length(bend.setback, unit)}`}>
        <NumberField
          label={`Angle of bend ${index + 1}`}
          hideLabel
          unit='°'
          value={bend.angle}
          onKeep={(angle) =>
            drawing.keep({ edit: 'reshape', run, target: { figure: 'angle', bend: index, angle } })
          }
        />
        <LockButton
          workup={workup}
          drawing={drawing}
          lock={{ hold: 'angle', bend: index, angle: bend.angle }}
        />
      </Row>
      <Row
        name={index === 0 ? 'Turn from up' : `Turn from bend ${index}`}
        aside={
          <>
            {bend.rotation >= 0 ? 'clockwise' : 'anticlockwise'} from A
            <br />
            {length(bend.rotation_girth, unit)} round the girth
          </>
        }
      >
        <NumberField
          label={`Rotation of bend ${index + 1}`}
          hideLabel
          unit='°'
          value={bend.rotation}
          onKeep={(rotation) =>
            drawing.keep({ edit: 'reshape', run, target: { figure: 'rotation', bend: index, rotation } })
          }
        />
        <LockButton
          workup={workup}
          drawing={drawing}
          lock={{ hold: 'rotation', bend: index, rotation: bend.rotation }}
        />
      </Row>
      <Row
        name='Radius'
        aside={`${bend.radius_diameters.toFixed(2)} × tube${spec?.radius == null ? ', as the run' : ''}`}
      >
        <LengthField
          label={`Radius of bend ${index + 1}`}
          hideLabel
          value={bend.radius}
          onKeep={(radius) => drawing.keep({ edit: 'set_bend_radius', run, bend: index, radius })}
        />
      </Row>
      <Row
        name='Seams'
        aside={
          bend.seams_chosen ? (
            <Button variant='text' onClick={() => setSeams(null)} sx={{ p: 0 }}>
              back to usual
            </Button>
          ) : (
            'usual: one per 10° begun'
          )
        }
      >
        <Box sx={{ display: 'flex', alignItems: 'center', gap: 0.75 }}>
          <Button
            variant='outlined'
            aria-label='One seam fewer'
            sx={{ minWidth: 32, px: 0 }}
            disabled={bend.seams <= 1}
            onClick={() => setSeams(bend.seams - 1)}
          >
            −
          </Button>
          <Box sx={{ minWidth: 28, textAlign: 'center' }}>{bend.seams}</Box>
          <Button
            variant='outlined'
            aria-label='One seam more'
            sx={{ minWidth: 32, px: 0 }}
            disabled={bend.seams >= 20}
            onClick={() => setSeams(bend.seams + 1)}
          >
            +
          </Button>
        </Box>
      </Row>
      <Box sx={{ display: 'flex', gap: 0.75, py: 0.75, borderTop: `1px solid ${token.hairline}` }}>
        <Button variant='outlined' onClick={() => drawing.keep({ edit: 'split_bend', run, bend: index })}>
          Split in two
        </Button>
        {index + 1 < workup.bends.length && (
          <Button variant='outlined' onClick={() => drawing.keep({ edit: 'merge_bends', run, bend: index })}>
            Merge with {index + 2}
          </Button>
        )}
        <Button variant='outlined' onClick={() => drawing.keep({ edit: 'remove_bend', run, bend: index })}>
          Take out
        </Button>
      </Box>
      <Row
        name='Ends'
        aside={bend.ends === 'square' ? `oval on round, ${length(bend.end_step, unit)} proud` : 'exact'}
      >
        <ToggleButtonGroup
          exclusive
          size='small'
          value={bend.ends}
          aria-label='Ends of the bend'
          onChange={(_, ends) => ends && drawing.keep({ edit: 'set_pie_ends', run, bend: index, ends })}
        >
          <ToggleButton value='mitred' sx={{ py: 0.25, textTransform: 'none' }}>
            Mitred
          </ToggleButton>
          <ToggleButton value='square' sx={{ py: 0.25, textTransform: 'none' }}>
            Square
          </ToggleButton>
        </ToggleButtonGroup>
      </Row>
      <Row name='Saw set at' aside={`${bend.pies} full pies, ${bend.welds} welds`}>
        {degrees(bend.saw, 2)}
      </Row>
      <Row name='Throat' aside={`limit ${length(bend.least_throat, unit)}`}>
        {figure(bend.throat, unit)} {unit}
      </Row>
      <Row name='Vertex' aside='x forward, y left, z up'>
        <Box component='span' sx={{ fontSize: 15 }}>
          {bend.vertex.map((coordinate) => figure(coordinate, unit)).join(' / ')}
        </Box>
      </Row>
      <Row name='Centre / back' aside='of a full pie'>
        {figure(bend.centre, unit)} / {figure(bend.back, unit)} {unit}
      </Row>
    </>
  );
}
