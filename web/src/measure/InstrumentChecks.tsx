import { Box, Button, Typography } from '@mui/material';
import type { InstrumentsWorkup } from '../api/generated/schema';
import { sentence, useBench } from '../kit/bench';
import { LengthField } from '../kit/LengthField';
import { NumberField } from '../kit/NumberField';
import type { Drawing } from '../kit/useDrawing';
import { token } from '../theme';
import { useMeasures } from './useMeasures';

interface Props {
  instruments: InstrumentsWorkup;
  drawing: Drawing;
}

/** The tape against a known length, and the car against level: errors that every reading shares. */
export function InstrumentChecks({ instruments, drawing }: Props) {
  const unit = useBench((bench) => bench.unit);
  const { checks } = instruments;
  const { tape, tilt } = checks;
  const keep = (change: Partial<InstrumentsWorkup['checks']>) =>
    drawing.keep({ step: 'measure', edit: 'set_instruments', checks: { ...checks, ...change } });
  const measure = useMeasures(tape ? [tape.known, tape.read] : []);
  return (
    <Box component='section' aria-label='Tape and level' sx={{ mt: 2 }}>
      <Typography variant='h2' component='h2'>
        Tape and level
      </Typography>
      <Told words={sentence(instruments.tape, unit)} />
      {tape ? (
        <Box sx={fields}>
          <LengthField
            label='A length you know'
            width='100%'
            value={measure(tape.known)}
            onKeep={(known) => keep({ tape: { ...tape, known } })}
          />
          <LengthField
            label='The tape reads'
            width='100%'
            value={measure(tape.read)}
            onKeep={(read) => keep({ tape: { ...tape, read } })}
          />
          <Forget what='tape' onForget={() => void keep({ tape: null })} />
        </Box>
      ) : (
        <Button variant='outlined' onClick={() => void keep({ tape: { known: 300, read: 300 } })}>
          Check the tape
        </Button>
      )}
      <Told words={sentence(instruments.tilt, unit)} />
      {tilt ? (
        <Box sx={fields}>
          <NumberField
            label='Gauge along, nose up'
            unit='°'
            width='100%'
            value={tilt.nose_up}
            onKeep={(nose_up) => keep({ tilt: { ...tilt, nose_up } })}
          />
          <NumberField
            label='Across, left up'
            unit='°'
            width='100%'
            value={tilt.left_up}
            onKeep={(left_up) => keep({ tilt: { ...tilt, left_up } })}
          />
          <Forget what='level' onForget={() => void keep({ tilt: null })} />
        </Box>
      ) : (
        <Button variant='outlined' onClick={() => void keep({ tilt: { nose_up: 0, left_up: 0 } })}>
          Lay the gauge on a rail
        </Button>
      )}
    </Box>
  );
}

const fields = { display: 'grid', gridTemplateColumns: '1fr 1fr auto', gap: 1, mt: 1.5, alignItems: 'end' };

function Told({ words }: { words: string }) {
  return (
    <Typography variant='body2' sx={{ mt: 1, mb: 0.5, lineHeight: 1.35, color: token.inkSoft }}>
      {words}
    </Typography>
  );
}

function Forget({ what, onForget }: { what: string; onForget: () => void }) {
  return (
    <Button
      variant='text'
      sx={{ p: 0, minWidth: 24 }}
      aria-label={`Forget the check of the ${what}`}
      onClick={onForget}
    >
      ×
    </Button>
  );
}
