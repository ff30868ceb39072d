import type { Measure } from '../api/generated/schema';
import { readLength } from '../api/hooks';
import { figure, useBench } from './bench';
import { TypedField } from './TypedField';
import { withUnit } from './withUnit';

interface Props {
  label: string;
  value: Measure | undefined;
  /** Called with what was typed; resolves to false when it is refused. */
  onKeep: (mm: number) => unknown;
  /** Whether it goes into an edit as it was typed, which the server reads; else it is read first, for a sum or a form. */
  direct?: boolean;
  width?: number | string;
  hideLabel?: boolean;
  hideUnit?: boolean;
}

/** A length typed as people say it. */
export function LengthField({ value, onKeep, direct, ...field }: Props) {
  const unit = useBench((bench) => bench.unit);
  const keep = async (text: string) => {
    if (!direct) return onKeep((await readLength(text, unit)).mm);
    const kept = await onKeep(withUnit(text, unit));
    // What was typed stays, so that it can be mended.
    if (kept === false) throw new Error('Not taken: see above.');
    return kept;
  };
  return <TypedField {...field} unit={unit} shown={value ? figure(value, unit) : ''} keep={keep} />;
}
