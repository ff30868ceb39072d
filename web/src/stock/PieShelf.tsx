import { Box, Button, Typography } from '@mui/material';
import { useState } from 'react';
import { words } from '../api/client';
import type { KitPie, Tube, WorkshopEdit, WorkshopState } from '../api/generated/schema';
import { readLength } from '../api/hooks';
import { useBench } from '../kit/bench';
import { NumberField } from '../kit/NumberField';
import { PlainField } from '../kit/PlainField';
import { token } from '../theme';
import { tubeKey, usePieWords } from './elbowWords';

interface Props {
  tube: Tube;
  workshop: WorkshopState['workshop'] | undefined;
  keep: (edit: WorkshopEdit) => Promise<boolean>;
  onProblem: (problem: string) => void;
}

const empty = { angle: '9', radius: '', count: '', price: '' };

/** Bought pies of a tube: on the shelf, and those that can be bought. */
export function PieShelf({ tube, workshop, keep, onProblem }: Props) {
  const unit = useBench((bench) => bench.unit);
  const [typed, setTyped] = useState(empty);
  const mine = (one: { tube: Tube }) => tubeKey(one.tube) === tubeKey(tube);
  const shelf = workshop?.pies?.filter(mine) ?? [];
  const onSale = workshop?.pies_on_sale?.filter(mine) ?? [];
  const said = usePieWords([...shelf, ...onSale].map(({ pie }) => pie));
  const add = async (make: (pie: KitPie) => WorkshopEdit) => {
    try {
      const angle = Number(typed.angle.replace('°', ''));
      if (!Number.isFinite(angle)) throw new Error('The angle is a number of degrees, such as 9');
      const radius = await readLength(typed.radius, unit);
      if (await keep(make({ radius: radius.mm, angle }))) setTyped(empty);
    } catch (error) {
      onProblem(words(error));
    }
  };
  const field = (label: string, name: keyof typeof empty) => (
    <PlainField label={label} value={typed[name]} onChange={(text) => setTyped({ ...typed, [name]: text })} />
  );
  const known = typed.angle.trim() && typed.radius.trim();
  const [count, price] = [Number(typed.count), Number(typed.price)];
  return (
    <Box component='section' aria-label='Pies of this tube' sx={{ mt: 2 }}>
      <Typography variant='h3'>Bought pies</Typography>
      <Box component='ul' aria-label='Pies on the shelf and on sale' sx={{ listStyle: 'none', m: 0, p: 0 }}>
        {shelf.map((one) => (
          <Box component='li' key={one.id} sx={row}>
            <strong>P{one.id}</strong>
            <span>{said(one.pie)}</span>
            <Box sx={{ ml: 'auto' }}>
              <NumberField
                label={`How many of P${one.id}`}
                hideLabel
                unit=''
                width={72}
                value={one.count}
                onKeep={(to) => keep({ edit: 'set_pies', pies: one.id, count: Math.round(to) })}
              />
            </Box>
          </Box>
        ))}
        {onSale.map((one) => (
          <Box component='li' key={one.id} sx={row}>
            <strong>{one.price.toFixed(2)}</strong>
            <span>{said(one.pie)}</span>
            <Button
              variant='outlined'
              sx={{ ml: 'auto' }}
              aria-label={`${said(one.pie)} can be bought no more`}
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
        {field('One turns, °', 'angle')}
        {field(`For radius, ${unit}`, 'radius')}
        {field('How many', 'count')}
        {field('Price of one', 'price')}
        <Button
          variant='outlined'
          disabled={!known || !(Number.isInteger(count) && count > 0)}
          onClick={() => void add((pie) => ({ edit: 'add_pies', tube, pie, count }))}
        >
          Put the pies on
        </Button>
        <Button
          variant='outlined'
          disabled={!known || !typed.price.trim() || !(price >= 0)}
          onClick={() => void add((pie) => ({ edit: 'add_pies_on_sale', tube, pie, price }))}
        >
          Pies can be bought
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
