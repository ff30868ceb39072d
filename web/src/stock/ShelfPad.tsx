import { Box, Button, Typography } from '@mui/material';
import { useState } from 'react';
import { words } from '../api/client';
import type { JobState, ScrapCount, Tube, TubePlan, WorkshopEdit } from '../api/generated/schema';
import { readLength } from '../api/hooks';
import { useKeepWorkshop, useWorkshop } from '../api/workshop';
import { figure, length, sentence, useBench } from '../kit/bench';
import { Choice } from '../kit/Choice';
import { LengthField } from '../kit/LengthField';
import { NumberField } from '../kit/NumberField';
import { PlainField } from '../kit/PlainField';
import { Row } from '../kit/Row';
import { materialNames } from '../measure/names';
import { useMeasures } from '../measure/useMeasures';
import { token } from '../theme';
import { ElbowShelf } from './ElbowShelf';
import { tubeKey } from './elbowWords';
import { PieShelf } from './PieShelf';
import { ShelfFiles } from './ShelfFiles';

interface Props {
  state: JobState;
  tubes: TubePlan[];
  /** What was spoilt so far. */
  scrap: ScrapCount | undefined;
  onProblem: (problem: string) => void;
}

/** The shelf and what can be bought, of the tubes this job is made of. */
export function ShelfPad({ state, tubes, scrap, onProblem }: Props) {
  const unit = useBench((bench) => bench.unit);
  const { data } = useWorkshop();
  const { mutateAsync } = useKeepWorkshop();
  const all = new Map(
    [
      ...tubes.map((one) => one.tube),
      ...state.job.runs.filter((run) => !run.hose).map((run) => run.tube),
    ].map((tube) => [tubeKey(tube), tube]),
  );
  const [wanted, setWanted] = useState<string>();
  const of = all.get(wanted ?? '') ?? [...all.values()][0];
  const [long, setLong] = useState('');
  const [price, setPrice] = useState('');
  const shelf = data?.workshop.sticks?.filter((stick) => of && tubeKey(stick.tube) === tubeKey(of)) ?? [];
  const onSale = data?.workshop.on_sale?.filter((one) => of && tubeKey(one.tube) === tubeKey(of)) ?? [];
  const measure = useMeasures([
    ...shelf.map((stick) => stick.length),
    ...onSale.map((one) => one.length),
    ...[...all.values()].flatMap((tube) => [tube.od, tube.wall]),
  ]);
  const text = (tube: Tube) => {
    const known = tubes.find((one) => tubeKey(one.tube) === tubeKey(tube));
    if (known) return sentence(known.what, unit);
    const [od, wall] = [measure(tube.od), measure(tube.wall)];
    return od && wall ? `${figure(od, unit)} × ${length(wall, unit)} ${materialNames[tube.material]}` : '';
  };
  const keep = async (edit: WorkshopEdit) => {
    try {
      await mutateAsync(edit);
      return true;
    } catch (error) {
      onProblem(words(error));
      return false;
    }
  };
  const add = async (make: (mm: number) => WorkshopEdit) => {
    try {
      const { mm } = await readLength(long, unit);
      if (await keep(make(mm))) {
        setLong('');
        setPrice('');
      }
    } catch (error) {
      onProblem(words(error));
    }
  };
  const unread = price.trim() !== '' && !(Number(price) >= 0 && Number.isFinite(Number(price)));
  if (!of) return <Typography variant='body2'>No pipe of this job is sawn from tube yet.</Typography>;
  return (
    <>
      <Box sx={{ display: 'flex', alignItems: 'center' }}>
        <Typography variant='h2'>The shelf</Typography>
        <ShelfFiles onProblem={onProblem} />
      </Box>
      <Typography variant='body2' color='textSecondary' sx={{ mb: 1 }}>
        It is the workshop's: every job takes from it. Write its number on each stick.
      </Typography>
      <Choice
        label='Of which tube'
        width='100%'
        value={tubeKey(of)}
        options={[...all.values()].map((tube) => [tubeKey(tube), text(tube)] as const)}
        onChange={setWanted}
      />
      <Box component='ul' aria-label='Sticks on the shelf' sx={list}>
        {shelf.map((stick) => (
          <Box component='li' key={stick.id} sx={row}>
            <strong>S{stick.id}</strong>
            <LengthField
              label={`Length of S${stick.id}`}
              hideLabel
              value={measure(stick.length)}
              onKeep={(mm) => keep({ edit: 'set_stick', stick: stick.id, length: mm })}
            />
            <Button
              variant='outlined'
              sx={{ ml: 'auto' }}
              aria-label={`Take S${stick.id} off the shelf`}
              onClick={() => void keep({ edit: 'remove_stick', stick: stick.id })}
            >
              Off
            </Button>
          </Box>
        ))}
        {shelf.length === 0 && (
          <Box component='li' sx={{ py: 0.75, fontSize: 14, color: token.inkSoft }}>
            None of it.
          </Box>
        )}
      </Box>
      <Typography variant='h3' sx={{ mt: 2 }}>
        Can be bought
      </Typography>
      <Box component='ul' aria-label='Lengths that can be bought' sx={list}>
        {onSale.map((one) => {
          const long = measure(one.length);
          return (
            <Box component='li' key={one.id} sx={row}>
              <span>{long ? length(long, unit) : ''}</span>
              <strong>{one.price.toFixed(2)}</strong>
              <Button
                variant='outlined'
                sx={{ ml: 'auto' }}
                aria-label={`${long ? length(long, unit) : ''} can be bought no more`}
                onClick={() => void keep({ edit: 'remove_on_sale', on_sale: one.id })}
              >
                Out
              </Button>
            </Box>
          );
        })}
        {onSale.length === 0 && (
          <Box component='li' sx={{ py: 0.75, fontSize: 14, color: token.inkSoft }}>
            Nobody said what it is sold in.
          </Box>
        )}
      </Box>
      <Box sx={{ display: 'grid', gridTemplateColumns: '1fr 1fr', columnGap: 1, rowGap: 1.75, mt: 2 }}>
        <PlainField label={`Length, ${unit}`} value={long} onChange={setLong} />
        <PlainField
          label='Price, to buy'
          value={price}
          onChange={setPrice}
          problem={unread ? 'A number, such as 24.50' : undefined}
        />
        <Button
          variant='outlined'
          disabled={!long.trim()}
          onClick={() => void add((mm) => ({ edit: 'add_stick', tube: of, length: mm }))}
        >
          Put on the shelf
        </Button>
        <Button
          variant='outlined'
          disabled={!long.trim() || !price.trim() || unread}
          onClick={() =>
            void add((mm) => ({ edit: 'add_on_sale', tube: of, length: mm, price: Number(price) }))
          }
        >
          Can be bought
        </Button>
      </Box>
      <ElbowShelf tube={of} workshop={data?.workshop} keep={keep} onProblem={onProblem} />
      <PieShelf tube={of} workshop={data?.workshop} keep={keep} onProblem={onProblem} />
      <Box component='section' aria-label='Spares' sx={{ mt: 2 }}>
        <Typography variant='h3'>Spares</Typography>
        <Row name='Pieces spoilt' aside='of a hundred you saw; spares are kept for them'>
          <NumberField
            label='Pieces spoilt of a hundred'
            hideLabel
            unit='%'
            width={96}
            digits={0}
            value={100 * (data?.workshop.scrap ?? 0)}
            onKeep={(hundredths) =>
              keep({ edit: 'set_scrap', scrap: hundredths > 0 ? hundredths / 100 : null })
            }
          />
        </Row>
        {scrap && scrap.spoilt + scrap.cut > 0 && (
          <Typography variant='body2' color='textSecondary'>
            On this vehicle {scrap.spoilt} of {scrap.spoilt + scrap.cut} so far.
          </Typography>
        )}
      </Box>
    </>
  );
}

const list = { listStyle: 'none', m: 0, p: 0, mt: 1 };
const row = {
  display: 'flex',
  alignItems: 'center',
  gap: 1.5,
  py: 0.5,
  borderTop: `1px solid ${token.hairline}`,
};
