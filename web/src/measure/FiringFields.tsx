import { Box, Button, TextField, Typography } from '@mui/material';
import { useState } from 'react';
import type { EngineFiring } from '../api/generated/schema';
import { Choice } from '../kit/Choice';
import { NumberField } from '../kit/NumberField';

interface Props {
  kept: EngineFiring | null | undefined;
  onKeep: (firing: EngineFiring | null) => Promise<unknown>;
}

const counts = Array.from({ length: 16 }, (_, index) => String(index + 1));

/** What shakes the pipes that ride on the engine: how often it fires. Asked once for the whole job. */
export function FiringFields({ kept, onKeep }: Props) {
  return (
    <>
      <Typography variant='h2' component='h3' sx={{ mt: 2, mb: 0.5 }}>
        How fast it turns
      </Typography>
      <Typography variant='body2' color='textSecondary' sx={{ mb: 1, lineHeight: 1.3 }}>
        {kept
          ? 'Pipes on the engine are held so that none rings where it is run.'
          : 'Nobody said yet: whether pipes on the engine ring cannot be told.'}
      </Typography>
      {kept ? <Kept kept={kept} onKeep={onKeep} /> : <First onKeep={onKeep} />}
    </>
  );
}

/** Both figures at once: neither has a default that would be right. */
function First({ onKeep }: Pick<Props, 'onKeep'>) {
  const [cylinders, setCylinders] = useState('');
  const [top, setTop] = useState('');
  const rpm = Number(top);
  const ready = cylinders !== '' && top.trim() !== '' && Number.isFinite(rpm);
  return (
    <Box sx={{ display: 'grid', gridTemplateColumns: '1fr 1fr', gap: 1, alignItems: 'end' }}>
      <Choice
        label='Cylinders'
        width='100%'
        value={cylinders}
        options={[['', 'nobody said'], ...counts.map((count) => [count, count] as const)]}
        onChange={setCylinders}
      />
      <TextField
        label='Usual top speed, rpm'
        size='small'
        value={top}
        onChange={(event) => setTop(event.target.value)}
      />
      <Button
        variant='outlined'
        disabled={!ready}
        onClick={() => void onKeep({ cylinders: Number(cylinders), top: rpm })}
      >
        Keep both
      </Button>
    </Box>
  );
}

function Kept({ kept, onKeep }: { kept: EngineFiring; onKeep: Props['onKeep'] }) {
  return (
    <>
      <Box sx={{ display: 'grid', gridTemplateColumns: '1fr 1fr', gap: 1 }}>
        <Choice
          label='Cylinders'
          width='100%'
          value={String(kept.cylinders)}
          options={counts.map((count) => [count, count] as const)}
          onChange={(count) => void onKeep({ ...kept, cylinders: Number(count) })}
        />
        <NumberField
          label='Usual top speed'
          unit='rpm'
          digits={0}
          width='100%'
          value={kept.top}
          onKeep={(top) => onKeep({ ...kept, top })}
        />
        <NumberField
          label='Least usual speed, 0 if unsaid'
          unit='rpm'
          digits={0}
          width='100%'
          value={kept.least ?? 0}
          onKeep={(least) => onKeep({ ...kept, least: least > 0 ? least : null })}
        />
      </Box>
      <Button variant='text' sx={{ p: 0, mt: 0.5 }} onClick={() => void onKeep(null)}>
        Nobody knows
      </Button>
    </>
  );
}
