import { Button } from '@mui/material';
import { useState } from 'react';
import type { Saw, SawReach } from '../api/generated/schema';
import { length, useBench } from '../kit/bench';
import { Choice } from '../kit/Choice';
import { LengthField } from '../kit/LengthField';
import { Row } from '../kit/Row';
import { useMeasures } from '../measure/useMeasures';

interface Props {
  saw: Saw;
  onChange: (reach: SawReach) => Promise<unknown>;
}

const sorts = [
  ['any', 'set to any angle'],
  ['0.5', 'scale by half degrees'],
  ['1', 'scale by whole degrees'],
  ['template', 'hacksaw, by template'],
  ['cutter', 'wheel cutter'],
] as const;

type Sort = (typeof sorts)[number][0];

const asReach: Record<Sort, SawReach> = {
  any: {},
  '0.5': { step: 0.5 },
  '1': { step: 1 },
  template: { kind: 'template' },
  cutter: { kind: 'cutter' },
};

const sortOf = ({ kind, step }: SawReach): Sort =>
  kind === 'template' || kind === 'cutter' ? kind : step === 0.5 ? '0.5' : step === 1 ? '1' : 'any';

/** What the saw is able to do: which angles it is set to, and how short an end its vice holds. */
export function SawReachRow({ saw, onChange }: Props) {
  const reach = saw.reach ?? {};
  const measure = useMeasures([reach.holds ?? 0]);
  const unit = useBench((bench) => bench.unit);
  const [open, setOpen] = useState(false);
  const sort = sortOf(reach);
  const held = reach.holds == null ? undefined : measure(reach.holds);
  if (!open) {
    return (
      <Row name='It is' aside={held ? `holds ends from ${length(held, unit)}` : ''}>
        <Button variant='text' sx={{ p: 0 }} aria-expanded={false} onClick={() => setOpen(true)}>
          {sorts.find(([key]) => key === sort)?.[1]}
        </Button>
      </Row>
    );
  }
  return (
    <>
      <Row name='It is'>
        <Choice
          label='What sort of saw it is'
          hideLabel
          width={216}
          value={sort}
          options={sorts}
          onChange={(sort) =>
            void onChange({ ...asReach[sort], ...(reach.holds == null ? {} : { holds: reach.holds }) })
          }
        />
      </Row>
      <Row name='Vice holds' aside='the shortest end of tube'>
        <LengthField
          label='Shortest end the vice holds'
          hideLabel
          value={held}
          onKeep={(holds) => onChange({ ...reach, holds })}
        />
      </Row>
    </>
  );
}
