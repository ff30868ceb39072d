import type { AlongAnchor, LegId, Measure, Workup } from '../api/generated/schema';
import { LengthField } from '../kit/LengthField';
import { Row } from '../kit/Row';

interface Props {
  workup: Workup;
  /** What it is called where its fields are named. */
  what: string;
  straight: LegId;
  fromStart: Measure;
  fromEnd: Measure;
  onPlace: (at: AlongAnchor) => Promise<unknown>;
}

/** Where something stands along its straight, from either end of it. */
export function AlongRows({ workup, what, straight, fromStart, fromEnd, onPlace }: Props) {
  const leg = workup.straights.findIndex((one) => one.straight === straight);
  const before = leg === 0 ? 'from the tube end at A' : `from bend ${leg}`;
  const after = leg === workup.bends.length ? 'from the tube end at B' : `from bend ${leg + 1}`;
  const rows = [
    { from: 'start', aside: before, value: fromStart },
    { from: 'end', aside: after, value: fromEnd },
  ] as const;
  return rows.map(({ from, aside, value }) => (
    <Row key={from} name='Middle' aside={aside}>
      <LengthField
        direct
        label={`Middle of the ${what} ${aside}`}
        hideLabel
        value={value}
        onKeep={(mm) => onPlace({ leg: straight, from, mm })}
      />
    </Row>
  ));
}
