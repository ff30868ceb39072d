import { Button } from '@mui/material';
import type { Measure, Stretch, Workup } from '../api/generated/schema';
import { LengthField } from '../kit/LengthField';
import { Row } from '../kit/Row';
import type { Drawing } from '../kit/useDrawing';

interface Props {
  workup: Workup;
  drawing: Drawing;
  stretch: Stretch;
  wrapped: Measure;
  /** Whether that is said of this stretch alone. */
  chosen: boolean;
  name: string;
}

/** How thick what is wrapped round one stretch is: as the run, or its own, or bare where there is no room. */
export function WrapRow({ workup, drawing, stretch, wrapped, chosen, name }: Props) {
  const wrap = (insulation: number | null) =>
    drawing.keep({ step: 'spec', edit: 'wrap_stretch', run: workup.run, stretch, insulation });
  return (
    <Row
      name='Wrapped'
      aside={
        chosen ? (
          <Button variant='text' onClick={() => void wrap(null)} sx={{ p: 0 }}>
            back to the run’s
          </Button>
        ) : (
          'as all of the run'
        )
      }
    >
      <LengthField direct label={`Wrapping of ${name}`} hideLabel value={wrapped} onKeep={wrap} />
    </Row>
  );
}
