import { Box, Button, ToggleButton, ToggleButtonGroup, Typography } from '@mui/material';
import type { BendMake, KitPie, PiesWorkup, Workup } from '../api/generated/schema';
import { ElbowRows } from '../join/ElbowRows';
import { degrees, figure, length, sentence, useBench } from '../kit/bench';
import { LengthField } from '../kit/LengthField';
import { NumberField } from '../kit/NumberField';
import { Row } from '../kit/Row';
import { SetOut } from '../kit/SetOut';
import type { Drawing } from '../kit/useDrawing';
import { token } from '../theme';
import { BoughtElbowRows } from './BoughtElbowRows';
import { KitPieRows } from './KitPieRows';
import { LockButton } from './LockButton';
import { WrapRow } from './WrapRow';

interface Props {
  workup: Workup;
  index: number;
  drawing: Drawing;
}

type How = 'pies' | 'drawn' | 'elbow' | 'moulded';

/** Everything about one bend; every number that is a decision can be typed. */
export function BendPad({ workup, index, drawing }: Props) {
  const { unit, select } = useBench();
  const bend = workup.bends[index];
  if (!bend) return null;
  const { run } = workup;
  const { bend: id, pies } = bend;
  const spec = workup.decisions.route.bends[index];
  const make = (how: BendMake | null) =>
    drawing.keep({ step: 'cut', edit: 'set_make', run, bend: id, make: how });
  // Pies of the shelf are as they are: the bend is laid at their radius.
  const takePies = (pie: KitPie) =>
    drawing.keep({
      step: 'together',
      edits: [
        { step: 'route', edit: 'set_bend_radius', run, bend: id, radius: pie.radius },
        { step: 'cut', edit: 'set_make', run, bend: id, make: { how: 'kit_pies', pie } },
      ],
    });
  const elbow = workup.joints.find((joint) => joint.joint === bend.elbow);
  const made = spec?.make?.how === 'elbow' ? spec.make : undefined;
  const choose = (how: How | null) => {
    if (how === 'elbow') {
      const stock = bend.usual_elbow;
      if (stock) void make({ how, stock, cut: 'b' });
    } else if (how === 'moulded') void drawing.keep({ step: 'join', edit: 'add_elbow', run, bend: id });
    else if (how) void make(how === 'drawn' ? { how } : { how, ends: 'mitred' });
  };
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
          width={96}
          value={bend.angle}
          onKeep={(angle) =>
            drawing.keep({
              step: 'route',
              edit: 'reshape',
              run,
              target: { figure: 'angle', bend: id, angle },
            })
          }
        />
        <LockButton workup={workup} drawing={drawing} lock={{ hold: 'angle', bend: id, angle: bend.angle }} />
      </Row>
      <Row
        name={index === 0 ? 'Turn from up' : `Turn from bend ${index}`}
        aside={`${bend.rotation >= 0 ? 'clockwise' : 'anticlockwise'} from A, ${length(bend.rotation_girth, unit)} round the girth`}
      >
        <NumberField
          label={`Rotation of bend ${index + 1}`}
          hideLabel
          unit='°'
          width={96}
          value={bend.rotation}
          onKeep={(rotation) =>
            drawing.keep({
              step: 'route',
              edit: 'reshape',
              run,
              target: { figure: 'rotation', bend: id, rotation },
            })
          }
        />
        <LockButton
          workup={workup}
          drawing={drawing}
          lock={{ hold: 'rotation', bend: id, rotation: bend.rotation }}
        />
      </Row>
      <Row
        name='Radius'
        aside={`${bend.radius_diameters.toFixed(2)} × tube${spec?.radius == null ? ', as the run' : ''}`}
      >
        <LengthField
          direct
          label={`Radius of bend ${index + 1}`}
          hideLabel
          value={bend.radius}
          onKeep={(radius) => drawing.keep({ step: 'route', edit: 'set_bend_radius', run, bend: id, radius })}
        />
      </Row>
      <Box sx={{ display: 'flex', gap: 0.75, py: 0.75, borderTop: `1px solid ${token.hairline}` }}>
        <Button
          variant='outlined'
          onClick={() => drawing.keep({ step: 'route', edit: 'split_bend', run, bend: id })}
        >
          Split in two
        </Button>
        {index + 1 < workup.bends.length && (
          <Button
            variant='outlined'
            onClick={() => drawing.keep({ step: 'route', edit: 'merge_bends', run, bend: id })}
          >
            Merge with {index + 2}
          </Button>
        )}
        <Button
          variant='outlined'
          onClick={() => drawing.keep({ step: 'route', edit: 'remove_bend', run, bend: id })}
        >
          Take out
        </Button>
      </Box>
      <WrapRow
        workup={workup}
        drawing={drawing}
        stretch={{ on: 'bend', bend: id }}
        wrapped={bend.wrapped}
        chosen={bend.wrapped_chosen}
        name={`bend ${index + 1}`}
      />
      <Row
        name='Made'
        aside={
          bend.make_chosen || elbow ? (
            <Button variant='text' onClick={() => make(null)} sx={{ p: 0 }}>
              back to usual
            </Button>
          ) : (
            'as usual for this tube'
          )
        }
      >
        <ToggleButtonGroup
          exclusive
          size='small'
          value={elbow ? 'moulded' : bend.bought ? 'elbow' : pies ? 'pies' : 'drawn'}
          aria-label='How the bend is made'
          onChange={(_, how: How | null) => choose(how)}
        >
          <ToggleButton value='pies' sx={{ py: 0.25, textTransform: 'none' }}>
            Pies
          </ToggleButton>
          <ToggleButton value='drawn' sx={{ py: 0.25, textTransform: 'none' }}>
            Bent
          </ToggleButton>
          {!workup.decisions.hose && (
            <ToggleButton value='elbow' sx={{ py: 0.25, textTransform: 'none' }}>
              Elbow
            </ToggleButton>
          )}
          {!workup.decisions.hose && (
            <ToggleButton value='moulded' aria-label='Moulded hose' sx={{ py: 0.25, textTransform: 'none' }}>
              Hose
            </ToggleButton>
          )}
        </ToggleButtonGroup>
      </Row>
      {elbow ? (
        <ElbowRows joint={elbow} onOpen={() => select({ part: 'joint', run, joint: elbow.joint })} />
      ) : bend.bought && made ? (
        <BoughtElbowRows tube={workup.decisions.tube} bend={bend} made={made} onMake={make} />
      ) : pies ? (
        <>
          {bend.usual_kit && (
            <Row name='Pies are' aside={pies.kit ? 'all of one angle' : 'as many as wanted'}>
              <ToggleButtonGroup
                exclusive
                size='small'
                value={pies.kit ? 'bought' : 'sawn'}
                aria-label='Where the pies come from'
                onChange={(_, from: 'sawn' | 'bought' | null) => {
                  if (from === 'sawn') void make({ how: 'pies', ends: 'mitred' });
                  else if (from && bend.usual_kit) void make({ how: 'kit_pies', pie: bend.usual_kit });
                }}
              >
                <ToggleButton value='sawn' sx={{ py: 0.25, textTransform: 'none' }}>
                  Sawn
                </ToggleButton>
                <ToggleButton value='bought' sx={{ py: 0.25, textTransform: 'none' }}>
                  Bought
                </ToggleButton>
              </ToggleButtonGroup>
            </Row>
          )}
          {pies.kit ? (
            <KitPieRows
              tube={workup.decisions.tube}
              bend={bend}
              pies={pies}
              made={pies.kit}
              onTake={takePies}
              onMake={make}
            />
          ) : (
            <PieRows pies={pies} welds={bend.welds} onMake={make} />
          )}
        </>
      ) : (
        <Typography variant='body2' color='textSecondary' sx={{ py: 0.75 }}>
          Drawn by a tube bender: one true arc, no seams. Length and angle are of the bend as it stands; what
          springs back is the bender's to add.
        </Typography>
      )}
      <Row name='Vertex' aside='x forward, y left, z up'>
        <Box component='span' sx={{ fontSize: 15 }}>
          {bend.vertex.map((coordinate) => figure(coordinate, unit)).join(' / ')}
        </Box>
      </Row>
      <SetOut part={{ part: 'bend', run, bend: id }} follows={workup} />
    </>
  );
}

/** The figures of a bend's pies. */
function PieRows({
  pies,
  welds,
  onMake,
}: {
  pies: PiesWorkup;
  welds: number;
  onMake: (make: BendMake) => void;
}) {
  const unit = useBench((bench) => bench.unit);
  const chosen = pies.seams_chosen ? pies.seams : null;
  const setSeams = (seams: number | null) => onMake({ how: 'pies', seams, ends: pies.ends });
  return (
    <>
      <Row
        name='Seams'
        aside={
          pies.seams_chosen ? (
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
            disabled={pies.seams <= 1}
            onClick={() => setSeams(pies.seams - 1)}
          >
            −
          </Button>
          <Box sx={{ minWidth: 28, textAlign: 'center' }}>{pies.seams}</Box>
          <Button
            variant='outlined'
            aria-label='One seam more'
            sx={{ minWidth: 32, px: 0 }}
            disabled={pies.seams >= 20}
            onClick={() => setSeams(pies.seams + 1)}
          >
            +
          </Button>
        </Box>
      </Row>
      <Row
        name='Ends'
        aside={pies.ends === 'square' ? `oval on round, ${length(pies.end_step, unit)} proud` : 'exact'}
      >
        <ToggleButtonGroup
          exclusive
          size='small'
          value={pies.ends}
          aria-label='Ends of the bend'
          onChange={(_, ends) => ends && onMake({ how: 'pies', seams: chosen, ends })}
        >
          <ToggleButton value='mitred' sx={{ py: 0.25, textTransform: 'none' }}>
            Mitred
          </ToggleButton>
          <ToggleButton value='square' sx={{ py: 0.25, textTransform: 'none' }}>
            Square
          </ToggleButton>
        </ToggleButtonGroup>
      </Row>
      <Row name='Saw set at' aside={`${pies.count} full pies, ${welds} welds`}>
        {degrees(pies.saw, 2)}
      </Row>
      <Row name='Throat' aside={`limit ${length(pies.least_throat, unit)}`}>
        {figure(pies.throat, unit)} {unit}
      </Row>
      <Row name='Centre / back' aside='of a full pie'>
        {figure(pies.centre, unit)} / {figure(pies.back, unit)} {unit}
      </Row>
    </>
  );
}
