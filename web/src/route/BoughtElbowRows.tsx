import { Box, Button, ToggleButton, ToggleButtonGroup } from '@mui/material';
import type { BendMake, BendWorkup, StockElbow, Tube } from '../api/generated/schema';
import { useWorkshop } from '../api/workshop';
import { degrees, length, sentence, useBench } from '../kit/bench';
import { Choice } from '../kit/Choice';
import { LengthField } from '../kit/LengthField';
import { NumberField } from '../kit/NumberField';
import { Row } from '../kit/Row';
import { tubeKey, useElbowWords } from '../stock/elbowWords';
import { token } from '../theme';

export type ElbowChoice = Extract<BendMake, { how: 'elbow' }>;

interface Props {
  tube: Tube;
  bend: BendWorkup;
  made: ElbowChoice;
  onMake: (make: BendMake) => Promise<unknown>;
}

const same = (one: StockElbow, other: StockElbow) =>
  one.radius === other.radius &&
  one.angle === other.angle &&
  one.legs.every((leg, side) => leg === other.legs[side]);

/** The elbow a bend is made of, where it is sawn, and what is done to it. */
export function BoughtElbowRows({ tube, bend, made, onMake }: Props) {
  const unit = useBench((bench) => bench.unit);
  const { data } = useWorkshop();
  const { bought } = bend;
  const mine = (one: { tube: Tube }) => tubeKey(one.tube) === tubeKey(tube);
  const shelf = (data?.workshop.elbows ?? []).filter(mine).map((one) => [`E${one.id}`, one.elbow] as const);
  const onSale = (data?.workshop.elbows_on_sale ?? [])
    .filter(mine)
    .map((one) => [`Buy ${one.price.toFixed(2)}`, one.elbow, one.id] as const);
  const offers = [
    ...shelf.map(([name, elbow]) => ({ key: name, name, elbow })),
    ...onSale.map(([name, elbow, id]) => ({ key: `sale ${id}`, name, elbow })),
  ];
  const said = useElbowWords(offers.map(({ elbow }) => elbow));
  const put = (stock: StockElbow) => onMake({ ...made, stock });
  const leg = (side: 0 | 1) => (mm: number) =>
    put({ ...made.stock, legs: side === 0 ? [mm, made.stock.legs[1]] : [made.stock.legs[0], mm] });
  if (!bought) return null;
  const chosen = offers.find(({ elbow }) => same(elbow, made.stock))?.key ?? 'own';
  return (
    <>
      {offers.length > 0 && (
        <Box sx={{ py: 0.75, borderTop: `1px solid ${token.hairline}` }}>
          <Choice
            label='Which elbow'
            width='100%'
            value={chosen}
            options={[
              ...(chosen === 'own' ? [['own', 'None of the shelf: as said below'] as const] : []),
              ...offers.map(({ key, name, elbow }) => [key, `${name}: ${said(elbow)}`] as const),
            ]}
            onChange={(key) => {
              const offer = offers.find((one) => one.key === key);
              if (offer) void put(offer.elbow);
            }}
          />
        </Box>
      )}
      <Row name='Elbow turns' aside={`radius ${length(bought.radius, unit)}`}>
        <NumberField
          label='Angle of the elbow'
          hideLabel
          unit='°'
          width={96}
          value={bought.angle}
          onKeep={(angle) => put({ ...made.stock, angle })}
        />
      </Row>
      <Row name='Leg towards A' aside={used(bought.used[0].mm, length(bought.used[0], unit))}>
        <LengthField label='Leg towards A' hideLabel value={bought.legs[0]} onKeep={leg(0)} />
      </Row>
      <Row name='Leg towards B' aside={used(bought.used[1].mm, length(bought.used[1], unit))}>
        <LengthField label='Leg towards B' hideLabel value={bought.legs[1]} onKeep={leg(1)} />
      </Row>
      {bought.trim && (
        <Row name='Sawn' aside={`${degrees(bought.trim.left_over)} of it left over`}>
          <ToggleButtonGroup
            exclusive
            size='small'
            value={bought.trim.end}
            aria-label='The end that is sawn in the arc'
            onChange={(_, cut) => cut && void onMake({ ...made, cut })}
          >
            <ToggleButton value='a' sx={{ py: 0.25, textTransform: 'none' }}>
              Towards A
            </ToggleButton>
            <ToggleButton value='b' sx={{ py: 0.25, textTransform: 'none' }}>
              Towards B
            </ToggleButton>
          </ToggleButtonGroup>
        </Row>
      )}
      <Box sx={{ py: 0.75, borderTop: `1px solid ${token.hairline}` }}>
        <Box component='ol' sx={{ m: 0, pl: 2.5, fontSize: 15, lineHeight: 1.4 }}>
          {bought.acts.map((act) => (
            <li key={act.mm}>{sentence(act, unit)}</li>
          ))}
        </Box>
        <Button
          variant='outlined'
          sx={{ mt: 0.75 }}
          onClick={() => void put({ ...made.stock, legs: [made.stock.legs[1], made.stock.legs[0]] })}
        >
          Turn it end for end
        </Button>
      </Box>
    </>
  );
}

const used = (mm: number, text: string) => (mm > 0 ? `${text} of it used` : 'none of it used');
