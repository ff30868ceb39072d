import type { JointChange, JointKind, JointPart, Workup } from '../api/generated/schema';
import { same } from '../kit/bench';
import { Choice } from '../kit/Choice';
import { Row } from '../kit/Row';
import { useJointParts } from './useJointParts';

interface Props {
  workup: Workup;
  kind: JointKind;
  part: JointPart | undefined;
  name: string;
  onChange: (to: JointChange) => unknown;
}

/** What stands for no part in particular. */
const USUAL = 'usual';
/** Sizes nearer than this, in mm, are one. */
const GOOD = 0.5;

/** The part a joint is made with: one of the catalogue for this tube, the builder's own, or just a usual one. */
export function PartChoice({ workup, kind, part, name, onChange }: Props) {
  const all = useJointParts() ?? [];
  const fit = all.filter(
    (one) => one.kind === kind && (one.od == null || Math.abs(Number(one.od) - workup.od.mm) <= GOOD),
  );
  const own = part && !fit.some((one) => same(one, part)) ? [part] : [];
  const offered = [...fit, ...own];
  if (offered.length === 0) return null;
  return (
    <Row name='Part' aside={part?.price == null ? 'as usual' : `costs ${part.price}`}>
      <Choice
        label={`Part of ${name}`}
        hideLabel
        width={186}
        value={part?.name ?? USUAL}
        options={[[USUAL, 'any usual one'], ...offered.map((one) => [one.name, one.name] as const)]}
        onChange={(chosen) =>
          onChange({ set: 'part', part: offered.find((one) => one.name === chosen) ?? null })
        }
      />
    </Row>
  );
}
