import { Button } from '@mui/material';
import type { ReactNode } from 'react';
import { NumberField } from '../kit/NumberField';
import { Row } from '../kit/Row';

interface Props {
  name: string;
  /** What its field is called. */
  label: string;
  clock: number;
  held: boolean;
  aside?: ReactNode;
  /** What lets go of that. */
  free?: string;
  /** Holds it at a clock; nothing lets it turn. */
  onHold: (clock: number | null) => unknown;
}

/** At which clock something stands, and whether it is held there. */
export function ClockRow({ name, label, clock, held, aside, free = 'Let it turn', onHold }: Props) {
  return (
    <Row
      name={name}
      aside={
        <>
          {aside}
          {held && (
            <Button size='small' sx={{ ml: 0.5 }} onClick={() => onHold(null)}>
              {free}
            </Button>
          )}
        </>
      }
    >
      <NumberField label={label} hideLabel width={92} value={clock} unit='°' digits={0} onKeep={onHold} />
    </Row>
  );
}
