import { Button } from '@mui/material';
import { words } from '../api/client';
import type { PinnedSaw } from '../api/generated/schema';
import { useKeepWorkshop, useWorkshop } from '../api/workshop';
import { length, useBench } from '../kit/bench';
import { LengthField } from '../kit/LengthField';
import { Row } from '../kit/Row';
import type { Drawing } from '../kit/useDrawing';
import { useMeasures } from '../measure/useMeasures';

/** The saw this job is made with. Its kerf is the workshop's: typed here it is so for new jobs as well. */
export function SawRow({ pinned, drawing }: { pinned: PinnedSaw; drawing: Drawing }) {
  const unit = useBench((bench) => bench.unit);
  const { data } = useWorkshop();
  const { mutateAsync } = useKeepWorkshop();
  const saw = data?.workshop.saws.find((one) => one.id === data.workshop.saw);
  const measure = useMeasures([pinned.kerf, saw?.kerf ?? pinned.kerf]);
  const pin = (now: PinnedSaw) => drawing.keep({ step: 'cut', edit: 'pin_saw', saw: now });
  const other = saw && (saw.name !== pinned.name || saw.kerf !== pinned.kerf) ? saw : undefined;
  const theirs = measure(other?.kerf ?? pinned.kerf);
  return (
    <Row
      name='Kerf'
      aside={
        other ? (
          <Button
            variant='text'
            sx={{ p: 0 }}
            onClick={() => void pin({ name: other.name, kerf: other.kerf })}
          >
            {other.name} now cuts {theirs ? length(theirs, unit) : ''}: use it here
          </Button>
        ) : (
          pinned.name
        )
      }
    >
      <LengthField
        label='Kerf of the saw'
        hideLabel
        value={measure(pinned.kerf)}
        onKeep={async (kerf) => {
          if (!saw) return false;
          try {
            await mutateAsync({ edit: 'set_kerf', saw: saw.id, kerf });
          } catch (error) {
            drawing.say(words(error));
            return false;
          }
          return pin({ name: saw.name, kerf });
        }}
      />
    </Row>
  );
}
