import { Box, Button } from '@mui/material';
import type { JointChange, JointFigures, JointKind, Workup } from '../api/generated/schema';
import { degrees, figure, length, useBench } from '../kit/bench';
import { Fold } from '../kit/Fold';
import { NumberField } from '../kit/NumberField';
import { Row } from '../kit/Row';
import { token } from '../theme';
import { OwnPart } from './OwnPart';
import { PartChoice } from './PartChoice';
import { UseBar } from './UseBar';

interface Props {
  workup: Workup;
  kind: JointKind;
  figures: JointFigures;
  /** What it is called where its fields are named. */
  name: string;
  onChange: (to: JointChange) => unknown;
}

/** What a joint gives, takes and bears, and how it is reached and held. */
export function JointFacts({ workup, kind, figures, name, onChange }: Props) {
  const { unit, pose, setPose } = useBench();
  const { give, takes, screw, part } = figures;
  const gives = give.angle > 0 || give.offset > 0 || give.axial > 0;
  const worst = takes && {
    roll: takes.roll,
    shift: takes.shift,
    sections: takes.sections,
    of: name,
  };
  const shown = pose !== undefined && pose.of === name;
  return (
    <>
      <PartChoice workup={workup} kind={kind} part={part ?? undefined} name={name} onChange={onChange} />
      <Row name='Gives' aside={gives ? 'bends, sideways, along' : 'the two sides are one'}>
        {gives ? `${degrees(give.angle)} · ${give.offset} · ${give.axial} mm` : 'nothing'}
      </Row>
      {takes && (
        <Box sx={{ borderTop: `1px solid ${token.hairline}`, py: 0.75 }}>
          <Box sx={{ display: 'flex', alignItems: 'center', gap: 1 }}>
            <Box sx={{ width: 96, fontSize: 14, flex: 'none' }}>Takes</Box>
            <UseBar share={takes.share} />
          </Box>
          <Box sx={{ display: 'flex', alignItems: 'center', justifyContent: 'space-between', mt: 0.5 }}>
            <Box sx={{ fontSize: 13, color: token.inkSoft }}>
              {degrees(takes.angle)}, {figure(takes.offset, unit)} sideways,{' '}
              {figure({ ...takes.axial, mm_text: takes.axial.mm_text.replace('-', '') }, unit)} {unit}{' '}
              {takes.axial.mm < 0 ? 'together' : 'apart'}
              {takes.hot ? ', hot' : ''}
              {takes.roll !== 0 ? `, rolled ${degrees(Math.abs(takes.roll))}` : ''}
            </Box>
            <Button
              size='small'
              variant='outlined'
              aria-pressed={shown}
              onClick={() => setPose(shown ? undefined : (worst ?? undefined))}
            >
              {shown ? 'Back to rest' : 'Show it'}
            </Button>
          </Box>
        </Box>
      )}
      {screw && (
        <Row
          name={
            kind === 'v_band' || kind === 'v_band_seal'
              ? 'Nut at'
              : kind === 'sleeve' || kind === 'rigid_clamp'
                ? 'Latch at'
                : 'Screw at'
          }
          aside={
            <>
              {screw.spare.mm < 0
                ? `${length({ ...screw.spare, mm_text: screw.spare.mm_text.replace('-', '') }, unit)} too little room`
                : screw.spare.mm >= 30
                  ? 'hand and tool have room'
                  : `${length(screw.spare, unit)} to spare`}
              {screw.held && (
                <Button size='small' sx={{ ml: 0.5 }} onClick={() => onChange({ set: 'clock', clock: null })}>
                  Let it turn
                </Button>
              )}
            </>
          }
        >
          <NumberField
            label={`Clock of ${name}`}
            hideLabel
            width={92}
            value={screw.clock}
            unit='°'
            digits={0}
            onKeep={(clock) => onChange({ set: 'clock', clock })}
          />
        </Row>
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
