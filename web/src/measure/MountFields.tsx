import { Box, Button, Slider, ToggleButton, ToggleButtonGroup, Typography } from '@mui/material';
import type { BayWorkup, MountKind, Mounts } from '../api/generated/schema';
import { length, useBench } from '../kit/bench';
import { Choice } from '../kit/Choice';
import { LengthField } from '../kit/LengthField';
import { NumberField } from '../kit/NumberField';
import { token } from '../theme';
import { mountNames, options } from './names';
import { PointFields } from './PointFields';

interface MountProps {
  bay: BayWorkup;
  kept: Mounts;
  onKeep: (mounts: Mounts | null) => Promise<unknown>;
}

/** How the engine moves, and how it looks when it does. */
export function MountFields({ bay, kept, onKeep }: MountProps) {
  const { unit, roll, setRoll } = useBench();
  const { mounts } = bay;
  if (!mounts) return null;
  const [least = 0, most = 0] = mounts.rolls;
  const moving = bay.ports.filter((port) => port.travel);
  return (
    <>
      <ToggleButtonGroup
        exclusive
        size='small'
        value={kept.kind}
        aria-label='Mounts'
        onChange={(_, kind: MountKind | null) => {
          // Another kind brings its own figures.
          if (kind) void onKeep({ kind, from: kept.from, to: kept.to, crank: kept.crank ?? null });
        }}
        sx={{
          mt: 1,
          '& button': { textTransform: 'none', px: 2, py: 0.4, fontSize: 14, color: token.ink },
          '& button.Mui-selected, & button.Mui-selected:hover': { bgcolor: token.straw },
        }}
      >
        {options(mountNames).map(([kind, name]) => (
          <ToggleButton key={kind} value={kind}>
            {name}
          </ToggleButton>
        ))}
      </ToggleButtonGroup>
      <Typography variant='body2' color='textSecondary' sx={{ mt: 0.75, lineHeight: 1.3 }}>
        {mounts.reason}.
      </Typography>
      <Box sx={{ display: 'grid', gridTemplateColumns: '1fr 1fr', gap: 1, mt: 1.25 }}>
        <NumberField
          label='Roll under drive'
          unit='°'
          width='100%'
          value={mounts.roll}
          onKeep={(value) => onKeep({ ...kept, roll: value })}
        />
        <NumberField
          label='Roll on overrun'
          unit='°'
          width='100%'
          value={mounts.overrun}
          onKeep={(value) => onKeep({ ...kept, overrun: value })}
        />
        <Choice<'unsaid' | 'clockwise' | 'anticlockwise'>
          label='Crank, from the first point'
          width='100%'
          value={mounts.crank ?? 'unsaid'}
          options={[
            ['unsaid', 'nobody said'],
            ['clockwise', 'clockwise'],
            ['anticlockwise', 'anticlockwise'],
          ]}
          onChange={(crank) => void onKeep({ ...kept, crank: crank === 'unsaid' ? null : crank })}
        />
        <LengthField
          label='Shift any way'
          width='100%'
          value={mounts.shift}
          onKeep={(mm) => onKeep({ ...kept, shift: mm })}
        />
      </Box>
      <PointFields label='roll axis' at={kept.from} onKeep={(from) => onKeep({ ...kept, from })} />
      <PointFields label='also on it' at={kept.to} onKeep={(to) => onKeep({ ...kept, to })} />
      <Typography variant='body2' sx={{ mt: 1.25 }}>
        Show it rolled: <strong>{roll.toFixed(1)}°</strong>
      </Typography>
      <Box sx={{ px: 1 }}>
        <Slider
          size='small'
          aria-label='Engine shown rolled by'
          min={least}
          max={most}
          step={(most - least) / 40 || 0.1}
          marks={[{ value: 0 }]}
          value={Math.max(least, Math.min(most, roll))}
          onChange={(_, value) => setRoll(value as number)}
        />
      </Box>
      <Box
        component='ul'
        sx={{ listStyle: 'none', m: 0, p: 0, fontSize: 14 }}
        aria-label='How far mouths move'
      >
        {moving.map((port) => (
          <Box
            component='li'
            key={`${port.port.run} ${port.port.end}`}
            sx={{ display: 'flex', py: 0.25, borderTop: `1px solid ${token.hairline}` }}
          >
            <span>{port.name}</span>
            <Box component='strong' sx={{ ml: 'auto' }}>
              {port.travel && length(port.travel, unit)}
            </Box>
          </Box>
        ))}
      </Box>
      <Button variant='text' sx={{ p: 0, mt: 0.5 }} onClick={() => void onKeep(null)}>
        The engine stands still
      </Button>
    </>
  );
}
