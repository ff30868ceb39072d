import { Box } from '@mui/material';
import type { Unit } from '../kit/bench';
import { Choice } from '../kit/Choice';
import { PlainField } from '../kit/PlainField';

export interface Signed {
  text: string;
  way: 'more' | 'less';
}

export const nothing = (): Signed => ({ text: '', way: 'more' });

interface Props {
  label: string;
  unit: Unit;
  value: Signed;
  /** What the two ways are called, more first. */
  ways: readonly [string, string];
  problem?: string | undefined;
  onChange: (value: Signed) => void;
}

/** A length and which way it is off, as it is said: 10 low. */
export function SignedLength({ label, unit, value, ways, problem, onChange }: Props) {
  return (
    <Box sx={{ display: 'grid', gridTemplateColumns: 'minmax(0, 1fr) 132px', gap: 1, alignItems: 'start' }}>
      <PlainField
        label={`${label}, ${unit}`}
        value={value.text}
        problem={problem}
        onChange={(text) => onChange({ ...value, text })}
      />
      <Choice
        label={`${label}: which way`}
        hideLabel
        width='100%'
        value={value.way}
        options={[
          ['more', ways[0]],
          ['less', ways[1]],
        ]}
        onChange={(way) => onChange({ ...value, way })}
      />
    </Box>
  );
}
