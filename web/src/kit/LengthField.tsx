import type { Measure } from '../api/generated/schema';
import { readLength } from '../api/hooks';
import { figure, useBench } from './bench';
import { TypedField } from './TypedField';

interface Props {
  label: string;
  value: Measure | undefined;
  /** Called with millimetres once the text has been read; resolves to false when the value is refused. */
  onKeep: (mm: number) => unknown;
  width?: number | string;
  hideLabel?: boolean;
  hideUnit?: boolean;
}

/** A length typed as people say it; the server reads it. */
export function LengthField({ value, onKeep, ...field }: Props) {
  const unit = useBench((bench) => bench.unit);
  const keep = async (text: string) => onKeep((await readLength(text, unit)).mm);
  return <TypedField {...field} unit={unit} shown={value ? figure(value, unit) : ''} keep={keep} />;
}
