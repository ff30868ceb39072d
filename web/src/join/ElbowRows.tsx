import { Button } from '@mui/material';
import type { JointWorkup } from '../api/generated/schema';
import { degrees, figure, length, useBench } from '../kit/bench';
import { Row } from '../kit/Row';

/** What a moulded elbow in place of a bend is bought and cut to. */
export function ElbowRows({ joint, onOpen }: { joint: JointWorkup; onOpen?: () => void }) {
  const unit = useBench((bench) => bench.unit);
  const { elbow } = joint;
  if (!elbow) return null;
  const off = Math.abs(elbow.pulled);
  const pulled =
    off < 0.05 ? 'fits as it is moulded' : `pulled ${degrees(off)} ${elbow.pulled > 0 ? 'tighter' : 'open'}`;
  return (
    <>
      <Row name='Elbow to buy' aside={`${pulled}; radius ${length(elbow.radius, unit)}`}>
        {degrees(elbow.moulded, 0)}
      </Row>
      <Row name='Cut each leg' aside='from where its bend ends, square'>
        {figure(elbow.leg, unit)} {unit}
      </Row>
      {onOpen && (
        <Button variant='text' onClick={onOpen} sx={{ p: 0, my: 0.5 }}>
          What it gives, its clamps and its seats
        </Button>
      )}
    </>
  );
}
