import { Button } from '@mui/material';
import { words } from '../api/client';
import type { PinnedSaw, WorkshopEdit } from '../api/generated/schema';
import { useKeepWorkshop, useWorkshop } from '../api/workshop';
import { length, useBench } from '../kit/bench';
import { LengthField } from '../kit/LengthField';
import { Row } from '../kit/Row';
import type { Drawing } from '../kit/useDrawing';
import { useMeasures } from '../measure/useMeasures';
import { CouponRow } from './CouponRow';
import { SawReachRow } from './SawReachRow';

/** The saw this job is made with. Its kerf and its error are the workshop's: said here they are so for new jobs as well. */
export function SawRow({ pinned, drawing }: { pinned: PinnedSaw; drawing: Drawing }) {
  const unit = useBench((bench) => bench.unit);
  const { data } = useWorkshop();
  const { mutateAsync } = useKeepWorkshop();
  const saw = data?.workshop.saws.find((one) => one.id === data.workshop.saw);
  const now = data?.pinned;
  const measure = useMeasures([pinned.kerf, now?.kerf ?? pinned.kerf]);
  const pin = (to: PinnedSaw) => drawing.keep({ step: 'cut', edit: 'pin_saw', saw: to });
  const differs =
    now &&
    (now.name !== pinned.name ||
      now.kerf !== pinned.kerf ||
      (now.bias ?? null) !== (pinned.bias ?? null) ||
      (['kind', 'step', 'holds'] as const).some(
        (part) => (now.reach?.[part] ?? null) !== (pinned.reach?.[part] ?? null),
      ));
  const other = differs ? now : undefined;
  const theirs = measure(other?.kerf ?? pinned.kerf);
  const change = async (edit: WorkshopEdit) => {
    try {
      return await pin((await mutateAsync(edit)).pinned);
    } catch (error) {
      drawing.say(words(error));
      return false;
    }
  };
  return (
    <>
      <Row
        name='Kerf'
        aside={
          other ? (
            <Button variant='text' sx={{ p: 0 }} onClick={() => void pin(other)}>
              {other.kerf === pinned.kerf
                ? `${other.name} is measured anew: use it here`
                : `${other.name} now cuts ${theirs ? length(theirs, unit) : ''}: use it here`}
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
          onKeep={async (kerf) => saw !== undefined && change({ edit: 'set_kerf', saw: saw.id, kerf })}
        />
      </Row>
      {saw && (
        <CouponRow
          key={JSON.stringify(saw.coupon ?? null)}
          saw={saw}
          bias={pinned.bias ?? null}
          spread={data?.spread ?? null}
          onChange={(coupon) => change({ edit: 'set_coupon', saw: saw.id, coupon })}
        />
      )}
      {saw && (
        <SawReachRow saw={saw} onChange={(reach) => change({ edit: 'set_reach', saw: saw.id, reach })} />
      )}
    </>
  );
}
