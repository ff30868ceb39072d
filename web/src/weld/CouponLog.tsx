import { Box, Button, IconButton, Typography } from '@mui/material';
import { useState } from 'react';
import type { Process, Tube, WeldOutcome } from '../api/generated/schema';
import { useKeepSaying, useWorkshop } from '../api/workshop';
import { Choice } from '../kit/Choice';
import { Fold } from '../kit/Fold';
import { NotDone } from '../kit/NotDone';
import { PlainField } from '../kit/PlainField';
import { token } from '../theme';
import { outcomeNames } from './words';

interface Props {
  tube: Tube;
  process: Process;
}

const outcomes = Object.entries(outcomeNames) as [WeldOutcome, string][];

/** Beads laid on scraps: the last good one of this metal and wall is where the next seam starts from. */
export function CouponLog({ tube, process }: Props) {
  const { data } = useWorkshop();
  const { keep, isPending, problem, understood } = useKeepSaying();
  const [amps, setAmps] = useState('');
  const [outcome, setOutcome] = useState<WeldOutcome>('good');
  const [note, setNote] = useState('');
  const all = data?.workshop.weld_coupons ?? [];
  const mine = all
    .map((coupon, at) => ({ coupon, at }))
    .filter(({ coupon }) => coupon.material === tube.material);
  const set = Number(amps.replace(',', '.'));
  const good = set >= 5 && set <= 600;
  const add = async () => {
    const coupon = {
      material: tube.material,
      wall: tube.wall,
      process,
      amps: set,
      outcome,
      ...(note.trim() ? { note: note.trim() } : {}),
    };
    if (await keep({ edit: 'add_weld_coupon', coupon })) {
      setAmps('');
      setNote('');
    }
  };
  return (
    <Fold
      name='Coupons'
      aside={mine.length === 0 ? 'none of this metal yet' : `${mine.length} of this metal`}
    >
      {problem && <NotDone problem={problem} onUnderstood={understood} />}
      <Typography variant='body2' color='textSecondary' sx={{ mb: 1 }}>
        Weld a scrap of the same tube, cut it through and bend it. The last good one is where seams of this
        wall start from.
      </Typography>
      <Box component='ul' aria-label='Coupons of this metal' sx={{ m: 0, p: 0, listStyle: 'none' }}>
        {mine.map(({ coupon, at }) => (
          <Box
            component='li'
            key={at}
            sx={{
              display: 'grid',
              gridTemplateColumns: '60px minmax(0, 1fr) 28px',
              gap: 1,
              alignItems: 'center',
              py: 0.25,
              borderTop: `1px solid ${token.hairline}`,
              fontSize: 14,
            }}
          >
            <strong>{coupon.amps.toFixed(0)} A</strong>
            <span>
              {coupon.wall} mm: {outcomeNames[coupon.outcome]}
              {coupon.note ? `. ${coupon.note}` : ''}
            </span>
            <IconButton
              size='small'
              aria-label={`Take the coupon of ${coupon.amps.toFixed(0)} A out`}
              onClick={() => void keep({ edit: 'remove_weld_coupon', at })}
            >
              ×
            </IconButton>
          </Box>
        ))}
      </Box>
      <Box sx={{ display: 'grid', gridTemplateColumns: '96px minmax(0, 1fr)', gap: 1, my: 1 }}>
        <PlainField label='Set, A' value={amps} onChange={setAmps} />
        <Choice
          label='How it came out'
          value={outcome}
          options={outcomes}
          onChange={setOutcome}
          width='100%'
        />
      </Box>
      <Box sx={{ display: 'grid', gridTemplateColumns: 'minmax(0, 1fr) auto', gap: 1, mb: 1 }}>
        <PlainField label='To be remembered' value={note} onChange={setNote} />
        <Button variant='outlined' disabled={!good || isPending} onClick={() => void add()}>
          Note the coupon
        </Button>
      </Box>
    </Fold>
  );
}
