import { TypedField } from './TypedField';

interface Props {
  label: string;
  value: number;
  unit: string;
  digits?: number;
  onKeep: (value: number) => unknown;
  width?: number | string;
  hideLabel?: boolean;
}

/** A plain number with its unit, such as degrees. */
export function NumberField({ value, digits = 1, onKeep, ...field }: Props) {
  const shown = value.toFixed(digits).replace(/^-(0(\.0*)?)$/, '$1');
  const keep = async (text: string) => {
    const typed = text.replace(',', '.').replace(/\s*°$/, '');
    if (!/^-?\d+(\.\d+)?$/.test(typed)) throw new Error(`Type a number, such as ${shown}`);
    return onKeep(Number(typed));
  };
  return <TypedField {...field} shown={shown} keep={keep} />;
}
