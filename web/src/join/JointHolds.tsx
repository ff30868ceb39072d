import { Box, Button } from '@mui/material';
import type { JointChange, JointFigures, JointKind, Workup } from '../api/generated/schema';
import { sentence, useBench } from '../kit/bench';
import { Fold } from '../kit/Fold';
import { Row } from '../kit/Row';
import { token } from '../theme';
import { ClockRow } from './ClockRow';
import { OwnPart } from './OwnPart';

interface Props {
  workup: Workup;
  kind: JointKind;
  figures: JointFigures;
  /** What it is called where its fields are named. */
  name: string;
  onChange: (to: JointChange) => unknown;
}

/** What stands out at a joint's clock, by its kind. */
const screws: Partial<Record<JointKind, string>> = {
  v_band: 'Nut at',
  v_band_seal: 'Nut at',
  sleeve: 'Latch at',
  rigid_clamp: 'Latch at',
};

/** How a joint is reached, and what it holds and bears. */
export function JointHolds({ workup, kind, figures, name, onChange }: Props) {
  const unit = useBench((bench) => bench.unit);
  const { screw } = figures;
  return (
    <>
      {screw && (
        <ClockRow
          name={screws[kind] ?? 'Screw at'}
          label={`Clock of ${name}`}
          clock={screw.clock}
          held={screw.held}
          aside={sentence(screw.said, unit)}
          onHold={(clock) => onChange({ set: 'clock', clock })}
        />
      )}
      <Row
        name='Pushed apart'
        aside={
          figures.holds_n == null
            ? 'metal locks it'
            : figures.tied
              ? 'a tie holds it'
              : `holds ${figures.holds_n.toFixed(0)} N`
        }
      >
        {figures.thrust_n.toFixed(0)} N
      </Row>
      {figures.holds_n != null && (
        <Box sx={{ py: 0.5, borderTop: `1px solid ${token.hairline}` }}>
          <Button
            size='small'
            variant='outlined'
            aria-pressed={figures.tied}
            onClick={() => onChange({ set: 'tied', tied: !figures.tied })}
          >
            {figures.tied ? 'Take the tie off' : 'Tie it across'}
          </Button>
        </Box>
      )}
      <Row name='Bears' aside={`${workup.bar.toFixed(1)} bar in it`}>
        {figures.bar == null ? 'any pressure' : `${figures.bar.toFixed(1)} bar`}
        {figures.celsius == null ? '' : ` · ${figures.celsius.toFixed(0)} °C`}
      </Row>
      {kind !== 'butt' && (
        <Fold name='A part of your own' label={`A part of your own for ${name}`} aside='its figures'>
          <OwnPart workup={workup} kind={kind} figures={figures} name={name} onChange={onChange} />
        </Fold>
      )}
    </>
  );
}
