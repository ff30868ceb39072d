import { ButtonBase } from '@mui/material';
import type { Lock, Workup } from '../api/generated/schema';
import type { Drawing } from '../kit/useDrawing';
import { token } from '../theme';

interface Props {
  workup: Workup;
  drawing: Drawing;
  /** What is locked at the value it has now. */
  lock: Lock;
}

/** Holds one figure while the rest is shaped. */
export function LockButton({ workup, drawing, lock }: Props) {
  const held = workup.locks.find(({ lock: other }) => about(other) === about(lock));
  const on = held !== undefined;
  return (
    <ButtonBase
      aria-pressed={on}
      aria-label={on ? 'Let it go' : 'Hold it while the rest is shaped'}
      title={on ? 'Held. Press to let it go.' : 'Hold it while the rest is shaped'}
      onClick={() =>
        drawing.keep({ step: 'route', edit: 'set_lock', run: workup.run, lock: held?.lock ?? lock, on: !on })
      }
      sx={{
        ml: 0.75,
        p: '3px',
        verticalAlign: 'middle',
        bgcolor: on ? token.straw : 'transparent',
        border: `1px solid ${on ? token.straw : token.hairline}`,
      }}
    >
      <svg width={16} height={16} viewBox='0 0 16 16' aria-hidden='true'>
        <rect x={3} y={7} width={10} height={7} fill={token.ink} />
        <path
          d={on ? 'M5 7V4.5a3 3 0 0 1 6 0V7' : 'M5 7V4.5a3 3 0 0 1 6 0'}
          fill='none'
          stroke={token.ink}
          strokeWidth={1.8}
        />
      </svg>
    </ButtonBase>
  );
}

/** What a lock is about, whatever its value. */
function about(lock: Lock): string {
  switch (lock.hold) {
    case 'straight':
      return `straight ${lock.straight}`;
    case 'leg':
      return `leg ${lock.leg}`;
    default:
      return `${lock.hold} ${lock.bend}`;
  }
}
