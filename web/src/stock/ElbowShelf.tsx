import { Box, Button, Typography } from '@mui/material';
import { useState } from 'react';
import { words } from '../api/client';
import type { StockElbow, Tube, WorkshopEdit, WorkshopState } from '../api/generated/schema';
import { readLength } from '../api/hooks';
import { useBench } from '../kit/bench';
import { PlainField } from '../kit/PlainField';
import { token } from '../theme';
import { tubeKey, useElbowWords } from './elbowWords';

interface Props {
  tube: Tube;
  workshop: WorkshopState['workshop'] | undefined;
  keep: (edit: WorkshopEdit) => Promise<boolean>;
  onProblem: (problem: string) => void;
}

const empty = { angle: '90', radius: '', legs: ['', ''] as [string, string], price: '' };

/** Elbows of a tube: on the shelf, and those that can be bought. */
export function ElbowShelf({ tube, workshop, keep, onProblem }: Props) {
  const unit = useBench((bench) => bench.unit);
  const [typed, setTyped] = useState(empty);
  const mine = (one: { tube: Tube }) => tubeKey(one.tube) === tubeKey(tube);
  const shelf = workshop?.elbows?.filter(mine) ?? [];
  const onSale = workshop?.elbows_on_sale?.filter(mine) ?? [];
  const said = useElbowWords([...shelf, ...onSale].map(({ elbow }) => elbow));
  const add = async (make: (elbow: StockElbow) => WorkshopEdit) => {
    try {
      const angle = Number(typed.angle.replace('°', ''));
      if (!Number.isFinite(angle)) throw new Error('The angle is a number of degrees, such as 90');
      const [radius, one, other] = await Promise.all(
        [typed.radius, ...typed.legs].map((text) => readLength(text, unit)),
      );
      const legs: [number, number] = [one?.mm ?? 0, other?.mm ?? 0];
      if (await keep(make({ radius: radius?.mm ?? 0, angle, legs }))) setTyped(empty);
    } catch (error) {
      onProblem(words(error));
    }
  };
  const field = (label: string, value: string, set: (text: string) => void) => (
    <PlainField label={label} value={value} onChange={set} />
  );
  const full = typed.angle.trim() && typed.radius.trim() && typed.legs.every((leg) => leg.trim());
  const price = Number(typed.price);
  return (
    <Box component='section' aria-label='Elbows of this tube' sx={{ mt: 2 }}>
      <Typography variant='h3'>Elbows</Typography>
      <Box component='ul' aria-label='Elbows on the shelf and on sale' sx={{ listStyle: 'none', m: 0, p: 0 }}>
        {shelf.map((one) => (
          <Box component='li' key={one.id} sx={row}>
            <strong>E{one.id}</strong>
            <span>{said(one.elbow)}</span>
            <Button
              variant='outlined'
              sx={{ ml: 'auto' }}
              aria-label={`Take E${one.id} off the shelf`}
              onClick={() => void keep({ edit: 'remove_elbow', elbow: one.id })}
            >
              Off
            </Button>
          </Box>
        ))}
        {onSale.map((one) => (
          <Box component='li' key={one.id} sx={row}>
            <strong>{one.price.toFixed(2)}</strong>
            <span>{said(one.elbow)}</span>
            <Button
              variant='outlined'
              sx={{ ml: 'auto' }}
              aria-label={`${said(one.elbow)} can be bought no more`}
              onClick={() => void keep({ edit: 'remove_on_sale', on_sale: one.id })}
            >
              Out
            </Button>
          </Box>
        ))}
        {shelf.length + onSale.length === 0 && (
          <Box component='li' sx={{ py: 0.75, fontSize: 14, color: token.inkSoft }}>
            None of it.
          </Box>
        )}
      </Box>
      <Box sx={{ display: 'grid', gridTemplateColumns: '1fr 1fr', columnGap: 1, rowGap: 1.75, mt: 1.5 }}>
        {field('Turns, °', typed.angle, (angle) => setTyped({ ...typed, angle }))}
        {field(`Radius, ${unit}`, typed.radius, (radius) => setTyped({ ...typed, radius }))}
        {field(`One leg, ${unit}`, typed.legs[0], (leg) =>
          setTyped({ ...typed, legs: [leg, typed.legs[1]] }),
        )}
        {field(`Other leg, ${unit}`, typed.legs[1], (leg) =>
          setTyped({ ...typed, legs: [typed.legs[0], leg] }),
        )}
        {field('Price, to buy one', typed.price, (text) => setTyped({ ...typed, price: text }))}
        <span />
        <Button
          variant='outlined'
          disabled={!full}
          onClick={() => void add((elbow) => ({ edit: 'add_elbow', tube, elbow }))}
        >
          Put the elbow on
        </Button>
        <Button
          variant='outlined'
          disabled={!full || !typed.price.trim() || !(price >= 0)}
          onClick={() => void add((elbow) => ({ edit: 'add_elbow_on_sale', tube, elbow, price }))}
        >
          Elbow can be bought
        </Button>
      </Box>
    </Box>
  );
}

const row = {
  display: 'flex',
  alignItems: 'center',
  gap: 1.5,
  py: 0.5,
  fontSize: 15,
  borderTop: `1px solid ${token.hairline}`,
};
