import { Box } from '@mui/material';
import type { BendMake, BendWorkup, KitPie, PiesWorkup, Tube } from '../api/generated/schema';
import { useWorkshop } from '../api/workshop';
import { degrees, figure, length, useBench } from '../kit/bench';
import { Choice } from '../kit/Choice';
import { LengthField } from '../kit/LengthField';
import { NumberField } from '../kit/NumberField';
import { Row } from '../kit/Row';
import { useMeasures } from '../measure/useMeasures';
import { tubeKey, usePieWords } from '../stock/elbowWords';
import { token } from '../theme';

interface Props {
  tube: Tube;
  bend: BendWorkup;
  pies: PiesWorkup;
  made: KitPie;
  /** Takes pies of another sort; the bend is laid at their radius. */
  onTake: (pie: KitPie) => unknown;
  onMake: (make: BendMake) => Promise<unknown>;
}

/** The bought pies of a bend, and what is sawn beside them. */
export function KitPieRows({ tube, bend, pies, made, onTake, onMake }: Props) {
  const unit = useBench((bench) => bench.unit);
  const { data } = useWorkshop();
  const mine = (one: { tube: Tube }) => tubeKey(one.tube) === tubeKey(tube);
  const shelf = (data?.workshop.pies ?? []).filter(mine);
  const onSale = (data?.workshop.pies_on_sale ?? []).filter(mine);
  const offers = [
    ...shelf.map(({ id, pie, count }) => ({ key: `P${id}`, name: `P${id}, ${count} of them`, pie })),
    ...onSale.map(({ id, pie, price }) => ({ key: `sale ${id}`, name: `Buy ${price.toFixed(2)} each`, pie })),
  ];
  const said = usePieWords(offers.map(({ pie }) => pie));
  const radius = useMeasures([made.radius])(made.radius);
  const chosen =
    offers.find(({ pie }) => pie.angle === made.angle && pie.radius === made.radius)?.key ?? 'own';
  const put = (pie: KitPie) => onMake({ how: 'kit_pies', pie });
  return (
    <>
      {offers.length > 0 && (
        <Box sx={{ py: 0.75, borderTop: `1px solid ${token.hairline}` }}>
          <Choice
            label='Which pies'
            width='100%'
            value={chosen}
            options={[
              ...(chosen === 'own' ? [['own', 'None of the shelf: as said below'] as const] : []),
              ...offers.map(({ key, name, pie }) => [key, `${name}: ${said(pie)}`] as const),
            ]}
            onChange={(key) => {
              const offer = offers.find((one) => one.key === key);
              if (offer) void onTake(offer.pie);
            }}
          />
        </Box>
      )}
      <Row name='One pie turns' aside={`${pies.count} of them, ${bend.welds} welds`}>
        <NumberField
          label='Angle of one pie'
          hideLabel
          unit='°'
          width={96}
          value={made.angle}
          onKeep={(angle) => put({ ...made, angle })}
        />
      </Row>
      <Row name='Made for radius' aside={`throat ${length(pies.throat, unit)}`}>
        <LengthField
          direct
          label='Radius the pies were made for'
          hideLabel
          value={radius}
          onKeep={(radius) => put({ ...made, radius })}
        />
      </Row>
      <Row
        name='Straights sawn'
        aside={pies.end_saw > 0 ? `each end; oval on oval, ${length(pies.end_step, unit)} proud` : 'square'}
      >
        {degrees(pies.end_saw, 2)}
      </Row>
      <Row name='Centre / back' aside='of one pie'>
        {figure(pies.centre, unit)} / {figure(pies.back, unit)} {unit}
      </Row>
    </>
  );
}
