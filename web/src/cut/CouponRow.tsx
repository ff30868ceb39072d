import { Box, Button, Typography } from '@mui/material';
import { useState } from 'react';
import type { Saw, SawCoupon } from '../api/generated/schema';
import { degrees } from '../kit/bench';
import { PlainField } from '../kit/PlainField';
import { Row } from '../kit/Row';

interface Props {
  saw: Saw;
  /** By how many degrees the job's saw cuts more than it is set to. */
  bias: number | null;
  spread: number | null;
  onChange: (coupon: SawCoupon | null) => Promise<unknown>;
}

/** How true the saw cuts: two pieces sawn alike, one turned half round, the angle between them measured. */
export function CouponRow({ saw, bias, spread, onChange }: Props) {
  const [open, setOpen] = useState(false);
  const [set, setSet] = useState(String(saw.coupon?.set ?? ''));
  const [joints, setJoints] = useState((saw.coupon?.joints ?? []).join(' '));
  const read = joints
    .split(/[\s;]+/)
    .filter(Boolean)
    .map(Number);
  const good = Number(set) > 0 && read.length > 0 && read.every(Number.isFinite);
  const said =
    bias == null
      ? 'nobody measured it'
      : `${bias >= 0 ? 'more' : 'less'} than it is set to${spread == null ? '' : `, ± ${degrees(spread, 2)} a cut`}`;
  return (
    <>
      <Row name='Cuts' aside={said}>
        <Box sx={{ display: 'flex', alignItems: 'center', gap: 1 }}>
          {bias == null ? 'as set' : degrees(Math.abs(bias), 2)}
          <Button variant='text' sx={{ p: 0 }} aria-expanded={open} onClick={() => setOpen(!open)}>
            {bias == null ? 'Measure it' : 'Measured by'}
          </Button>
        </Box>
      </Row>
      {open && (
        <Box component='section' aria-label='Coupon of the saw' sx={{ pb: 1 }}>
          <Typography variant='body2' color='textSecondary' sx={{ mb: 1 }}>
            Saw two pieces at one setting, turn one half round, hold their faces together and measure the
            angle between them. Half of it is what the saw cuts. More pairs tell how it wanders.
          </Typography>
          <Box sx={{ display: 'grid', gridTemplateColumns: '1fr 2fr', gap: 1 }}>
            <PlainField label='Set at, °' value={set} onChange={setSet} />
            <PlainField
              label='Angles of the pairs, °'
              value={joints}
              placeholder='9.6 9.5'
              onChange={setJoints}
            />
          </Box>
          <Box sx={{ display: 'flex', gap: 1, mt: 1 }}>
            <Button
              variant='outlined'
              disabled={!good}
              onClick={() => void onChange({ set: Number(set), joints: read })}
            >
              Correct settings by it
            </Button>
            {saw.coupon && (
              <Button variant='outlined' onClick={() => void onChange(null)}>
                Forget it
              </Button>
            )}
          </Box>
        </Box>
      )}
    </>
  );
}
