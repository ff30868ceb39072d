import { Box, Button, Typography } from '@mui/material';
import type { JobState, SupportChange, SupportWorkup, Workup } from '../api/generated/schema';
import { length, sentence, useBench } from '../kit/bench';
import { Choice } from '../kit/Choice';
import { LengthField } from '../kit/LengthField';
import { Row } from '../kit/Row';
import { SetOut } from '../kit/SetOut';
import type { Drawing } from '../kit/useDrawing';
import { options, sideNames, supportNames } from '../measure/names';
import { token } from '../theme';
import { AlongRows } from './AlongRows';
import { ClockRow } from './ClockRow';

interface Props {
  state: JobState;
  workup: Workup;
  support: SupportWorkup;
  drawing: Drawing;
}

/** One support: what it is, where it sits, what it stands on, and where its holes come. */
export function SupportPad({ state, workup, support, drawing }: Props) {
  const { unit, select } = useBench();
  const { run } = workup;
  const change = (to: SupportChange) =>
    drawing.keep({ step: 'join', edit: 'change_support', run, support: support.support, to });
  const at = support.at.mm;
  const beside = workup.spans.filter((span) => span.from.mm < at + 1 && span.to.mm > at - 1);
  const lowest = [...support.feet].sort((one, other) => one.height.mm - other.height.mm)[0];
  const takeOff = async () => {
    if (await drawing.keep({ step: 'join', edit: 'remove_support', run, support: support.support })) {
      select({ part: 'run', run });
    }
  };
  return (
    <>
      <Typography variant='h1' component='h2'>
        {support.name}
      </Typography>
      <Row name='Support' aside={`tube ${length(workup.od, unit)}`}>
        <Choice
          label='Kind of support'
          hideLabel
          width={186}
          value={support.kind}
          options={options(supportNames)}
          onChange={(kind) => void change({ set: 'kind', kind })}
        />
      </Row>
      <Row name='Fixed to' aside='a section rides with what fixes it'>
        <Choice
          label='What it is fixed to'
          hideLabel
          width={120}
          value={support.fixed_to}
          options={options(sideNames)}
          onChange={(to) => void change({ set: 'to', to })}
        />
      </Row>
      <AlongRows
        workup={workup}
        what='support'
        straight={support.straight}
        fromStart={support.from_start}
        fromEnd={support.from_end}
        onPlace={(at) => change({ set: 'place', at })}
      />
      {support.clock != null && (
        <ClockRow
          name='Leaves at'
          label='Clock of the support'
          clock={support.clock}
          held={support.clock_held}
          aside={support.clock_held ? undefined : 'from up; towards what is nearest'}
          onHold={(clock) => change({ set: 'clock', clock })}
        />
      )}
      {lowest && (
        <Row
          name='Stand-off'
          aside={
            support.height_held ? (
              <Button size='small' onClick={() => void change({ set: 'stand_off', stand_off: null })}>
                Let it reach
              </Button>
            ) : (
              `${length(support.least, unit)} at least`
            )
          }
        >
          <LengthField
            direct
            label='Height of the stand-off'
            hideLabel
            value={lowest.height}
            onKeep={(mm) => change({ set: 'stand_off', stand_off: mm })}
          />
        </Row>
      )}
      {support.feet.length > 0 ? (
        <Row name={support.feet.length > 1 ? 'Feet' : 'Foot'} aside='from the tube’s skin to the hole'>
          <Box sx={{ fontSize: 14, fontWeight: 400, whiteSpace: 'normal' }}>
            {support.feet.map((foot) => (
              <div key={foot.hole.join(' ')}>
                <strong>{length(foot.height, unit)}</strong>{' '}
                {foot.on ? `to the ${foot.on}` : 'to nothing drawn'}
              </div>
            ))}
          </Box>
        </Row>
      ) : (
        <Row name='Hole' aside='in the panel it goes through'>
          {support.hole && length(support.hole, unit)}
        </Row>
      )}
      {support.tab && (
        <Row
          name='Tab'
          aside={`${length(support.tab.width, unit)} wide, ${length(support.tab.thickness, unit)} thick`}
        >
          {length(support.tab.length, unit)}
        </Row>
      )}
      {support.gives != null && (
        <Row name='Moves in it' aside={`gives ${length(support.gives, unit)}`}>
          {support.moves == null ? 'nothing' : length(support.moves, unit)}
        </Row>
      )}
      {beside.map((span) => (
        <Typography
          key={span.from.mm}
          variant='body2'
          sx={{
            py: 0.5,
            borderTop: `1px solid ${token.hairline}`,
            color: span.holds === false ? token.tightText : token.inkSoft,
          }}
        >
          {sentence(span.said, unit)}
        </Typography>
      ))}
      <Box sx={{ py: 0.75, borderTop: `1px solid ${token.hairline}` }}>
        <Box sx={{ display: 'flex', gap: 1 }}>
          {support.tab && (
            <Button
              variant='outlined'
              href={`/api/jobs/${state.id}/runs/${run}/supports/${support.support}/tab.svg`}
            >
              Pattern 1:1 (SVG)
            </Button>
          )}
          <Button variant='outlined' onClick={() => void takeOff()}>
            Take it off
          </Button>
        </Box>
      </Box>
      <SetOut part={{ part: 'support', run, support: support.support }} follows={workup} />
    </>
  );
}
