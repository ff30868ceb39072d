import { Box, Button, Typography } from '@mui/material';
import { useNavigate } from 'react-router';
import type { BranchChange, BranchWorkup, JobState, StubRef, Workup } from '../api/generated/schema';
import { length, useBench } from '../kit/bench';
import { Choice } from '../kit/Choice';
import { LengthField } from '../kit/LengthField';
import { NumberField } from '../kit/NumberField';
import { Row } from '../kit/Row';
import type { Drawing } from '../kit/useDrawing';
import { branchNames, options } from '../measure/names';
import { token } from '../theme';
import { AlongRows } from './AlongRows';
import { ClockRow } from './ClockRow';

interface Props {
  state: JobState;
  workup: Workup;
  branch: BranchWorkup;
  drawing: Drawing;
}

/** Something let into the tube: what it is for, where it sits, how it leans, and its template. */
export function BranchPad({ state, workup, branch, drawing }: Props) {
  const { unit, select } = useBench();
  const navigate = useNavigate();
  const { run } = workup;
  const change = (to: BranchChange) =>
    drawing.keep({ step: 'join', edit: 'change_branch', run, branch: branch.branch, to });
  const isOn = (stub: StubRef | null | undefined) => stub?.run === run && stub.branch === branch.branch;
  const goesOn = state.job.runs.find((one) => isOn(one.stubs?.a) || isOn(one.stubs?.b));
  const takeOut = async () => {
    if (await drawing.keep({ step: 'join', edit: 'remove_branch', run, branch: branch.branch })) {
      select({ part: 'run', run });
    }
  };
  return (
    <>
      <Typography variant='h1' component='h2'>
        {branch.name}
      </Typography>
      <Row name='Let in'>
        <Choice
          label='What is let in'
          hideLabel
          width={186}
          value={branch.kind}
          options={options(branchNames)}
          onChange={(kind) => void change({ set: 'kind', kind })}
        />
      </Row>
      <AlongRows
        workup={workup}
        what='hole'
        straight={branch.straight}
        fromStart={branch.from_start}
        fromEnd={branch.from_end}
        onPlace={(at) => change({ set: 'place', at })}
      />
      <ClockRow
        name='Leaves at'
        label='Clock of the branch'
        clock={branch.clock}
        held={branch.clock_held}
        aside={branch.clock_held ? undefined : 'from up, clockwise'}
        free='As usual'
        onHold={(clock) => change({ set: 'clock', clock })}
      />
      <Row name='Outside' aside={branch.sits ? 'diameter' : 'too wide for it'}>
        <LengthField
          direct
          label='Outside diameter of the branch'
          hideLabel
          value={branch.od}
          onKeep={(mm) => change({ set: 'od', od: mm })}
        />
      </Row>
      <Row name='Stands out' aside='of the skin'>
        <LengthField
          direct
          label='How far the branch stands out'
          hideLabel
          value={branch.reach}
          onKeep={(mm) => change({ set: 'reach', reach: mm })}
        />
      </Row>
      <Row name='Leans' aside='90° square, less to B'>
        <NumberField
          label='Angle of the branch'
          hideLabel
          width={92}
          value={branch.angle}
          unit='°'
          onKeep={(angle) => change({ set: 'angle', angle })}
        />
      </Row>
      <Row name='Aside' aside='left of the middle'>
        <LengthField
          direct
          label='How far the branch is off the middle'
          hideLabel
          value={branch.offset}
          onKeep={(mm) => change({ set: 'offset', offset: mm })}
        />
      </Row>
      <Row name='Round the skin' aside='clockwise from up'>
        {length(branch.round, unit)}
      </Row>
      {branch.mark?.from_a && (
        <Row name={`On ${branch.mark.piece}`} aside='along its line, from its A end'>
          {length(branch.mark.from_a, unit)}
        </Row>
      )}
      {branch.mark?.from_b && (
        <Row name={`On ${branch.mark.piece}`} aside='from its B end'>
          {length(branch.mark.from_b, unit)}
        </Row>
      )}
      {goesOn && (
        <Row name='Goes on'>
          <Button
            variant='text'
            sx={{ p: 0 }}
            onClick={() => navigate(`/jobs/${state.id}/runs/${goesOn.id}/route`)}
          >
            {goesOn.name}
          </Button>
        </Row>
      )}
      <Row name='Way in' aside={`${length(branch.way_in_wanted, unit)} wanted`}>
        <span style={{ color: branch.way_in.mm < branch.way_in_wanted.mm ? token.fouls : undefined }}>
          {length(branch.way_in, unit)}
        </span>
      </Row>
      <Box sx={{ display: 'flex', gap: 1, py: 0.75, borderTop: `1px solid ${token.hairline}` }}>
        <Button
          variant='outlined'
          disabled={!branch.sits}
          href={`/api/jobs/${state.id}/runs/${run}/branches/${branch.branch}/template`}
        >
          Template 1:1 (SVG)
        </Button>
        <Button variant='outlined' onClick={() => void takeOut()}>
          Take it out
        </Button>
      </Box>
    </>
  );
}
