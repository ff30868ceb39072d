import { Box, Button, Typography } from '@mui/material';
import type { EndWorkup, Neck, Port } from '../api/generated/schema';
import { sentence, useBench } from '../kit/bench';
import { LengthField } from '../kit/LengthField';
import { NumberField } from '../kit/NumberField';
import type { PortChange } from './PortFields';
import { useMeasures } from './useMeasures';

interface Props {
  letter: string;
  port: Port;
  /** The same end as it stands after what is sawn off it. */
  shown: EndWorkup;
  /** Where its template at 1:1 is. */
  template: string;
  onChange: (change: PortChange) => unknown;
}

const untouched: Neck = { length: 60, cut_back: 0, must_stay: 0 };

/** A component's own neck: what is sawn off it or turned before the pipe is made, and how. */
export function NeckFields({ letter, port, shown, template, onChange }: Props) {
  const unit = useBench((bench) => bench.unit);
  const neck = port.neck ?? undefined;
  const measure = useMeasures(neck ? [neck.length, neck.cut_back, neck.must_stay] : []);
  const change = (by: Partial<Neck>) =>
    onChange((now) => ({ ...now, neck: { ...(now.neck ?? untouched), ...by } }));
  if (!neck) {
    return (
      <Button variant='outlined' sx={{ mt: 1 }} onClick={() => change({})}>
        Saw its neck back or turn it
      </Button>
    );
  }
  const turn = (by: { heading?: number; pitch?: number }) =>
    change({ turned: { heading: shown.heading, pitch: shown.pitch, ...by } });
  return (
    <Box component='section' aria-label={`Neck of ${letter}`} sx={{ display: 'grid', gap: 1, mt: 1.5 }}>
      <Typography variant='h3'>Its neck</Typography>
      <Box sx={{ display: 'grid', gridTemplateColumns: '1fr 1fr 1fr', gap: 1 }}>
        <LengthField
          label={`Long now, ${letter}`}
          width='100%'
          value={measure(neck.length)}
          onKeep={(length) => change({ length })}
        />
        <LengthField
          label={`Saw off, ${letter}`}
          width='100%'
          value={measure(neck.cut_back)}
          onKeep={(cut_back) => change({ cut_back })}
        />
        <LengthField
          label={`Must stay, ${letter}`}
          width='100%'
          value={measure(neck.must_stay)}
          onKeep={(must_stay) => change({ must_stay })}
        />
      </Box>
      {neck.turned ? (
        <Box sx={{ display: 'grid', gridTemplateColumns: '1fr 1fr', gap: 1 }}>
          <NumberField
            label={`Turned to heading, ${letter}`}
            unit='°'
            width='100%'
            value={shown.heading}
            onKeep={(heading) => turn({ heading })}
          />
          <NumberField
            label={`Turned to pitch, ${letter}`}
            unit='°'
            width='100%'
            value={shown.pitch}
            onKeep={(pitch) => turn({ pitch })}
          />
        </Box>
      ) : null}
      {shown.neck && (
        <Box component='ol' sx={{ m: 0, pl: 2.5, fontSize: 14, lineHeight: 1.45 }}>
          {shown.neck.acts.map((act) => (
            <li key={act.mm}>{sentence(act, unit)}</li>
          ))}
        </Box>
      )}
      <Box sx={{ display: 'flex', gap: 0.75, flexWrap: 'wrap' }}>
        {neck.turned ? (
          <Button variant='outlined' onClick={() => change({ turned: null })}>
            Leave it on
          </Button>
        ) : (
          <Button variant='outlined' onClick={() => turn({})}>
            Turn it
          </Button>
        )}
        {shown.neck?.mitre && (
          <Button variant='outlined' href={template}>
            Template 1:1 (SVG)
          </Button>
        )}
        <Button variant='outlined' onClick={() => onChange((now) => ({ ...now, neck: null }))}>
          As it stands
        </Button>
      </Box>
    </Box>
  );
}
