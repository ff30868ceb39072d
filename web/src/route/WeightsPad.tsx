import { Box, ButtonBase, Slider, Typography } from '@mui/material';
import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { answered, server } from '../api/client';
import type { JobState, RoutesFound, Weights } from '../api/generated/schema';
import { Choice } from '../kit/Choice';
import { token } from '../theme';

const names: Record<keyof Weights, string> = {
  air: 'Air',
  bends: 'Few bends',
  seams: 'Few seams',
  hours: 'Few hours',
  length: 'Short',
  loss: 'Flow',
  mass: 'Light',
  looks: 'Level, square',
  stock: 'Whole elbows',
};
const keys = Object.keys(names) as (keyof Weights)[];

const usePresets = () =>
  useQuery({
    queryKey: ['presets'],
    staleTime: Number.POSITIVE_INFINITY,
    queryFn: () => answered(server.GET('/api/ways/presets')),
  });

/** The order of what was found by the weights chosen; the server sorts, the screen only shows. */
export function useOrder(state: JobState, run: number, found: RoutesFound | undefined) {
  const presets = usePresets();
  const [chosen, setWeights] = useState<Weights>();
  const weights = chosen ?? presets.data?.[0]?.weights;
  const order = useQuery({
    queryKey: ['order', state.id, run, found, weights],
    enabled: found !== undefined && weights !== undefined,
    placeholderData: (before) => (before?.length === found?.offers.length ? before : undefined),
    queryFn: () =>
      answered(
        server.POST('/api/jobs/{id}/runs/{run}/ways/order', {
          params: { path: { id: state.id, run } },
          body: weights as Weights,
        }),
      ),
  });
  return { order: order.data, weights, setWeights };
}

/** Weights that are no preset's. */
const OWN = 'own';

/** Schools as presets, and a slider for each figure. */
export function WeightsPad({
  weights,
  onChange,
}: {
  weights: Weights | undefined;
  onChange: (weights: Weights) => void;
}) {
  const presets = usePresets();
  const [open, setOpen] = useState(false);
  const now = JSON.stringify(weights);
  const chosen = presets.data?.find((preset) => JSON.stringify(preset.weights) === now);
  return (
    <Box sx={{ mb: 1 }}>
      <Box role='group' aria-label='What counts' sx={{ display: 'flex', alignItems: 'center', gap: 0.75 }}>
        <Choice
          label='Ranked'
          width='100%'
          value={chosen?.name ?? OWN}
          options={[
            ...(presets.data ?? []).map((preset) => [preset.name, preset.name] as const),
            ...(chosen ? [] : [[OWN, 'By my own weights'] as const]),
          ]}
          onChange={(name) => {
            const preset = presets.data?.find((one) => one.name === name);
            if (preset) onChange(preset.weights);
          }}
        />
        <Chip on={open} title='Set each weight by hand' onClick={() => setOpen(!open)}>
          By hand
        </Chip>
      </Box>
      {chosen && (
        <Typography variant='body2' color='textSecondary' sx={{ fontSize: 13, lineHeight: 1.3, mt: 0.25 }}>
          {chosen.reason}
        </Typography>
      )}
      {open && weights && (
        <Box sx={{ display: 'grid', gridTemplateColumns: '1fr 1fr', columnGap: 2.5, pt: 0.75, px: 0.5 }}>
          {keys.map((key) => (
            <Box key={key} sx={{ fontSize: 13 }}>
              {names[key]}
              <Slider
                size='small'
                aria-label={`How much ${names[key].toLowerCase()} counts`}
                min={0}
                max={8}
                step={0.5}
                value={weights[key]}
                onChange={(_, value) => onChange({ ...weights, [key]: value as number })}
                sx={{ py: 0.75 }}
              />
            </Box>
          ))}
        </Box>
      )}
    </Box>
  );
}

export function Chip({
  on,
  title,
  onClick,
  children,
}: {
  on: boolean;
  title?: string;
  onClick: () => void;
  children: React.ReactNode;
}) {
  return (
    <ButtonBase
      aria-pressed={on}
      title={title}
      onClick={onClick}
      sx={{
        px: 1,
        py: 0.4,
        fontSize: 13.5,
        whiteSpace: 'nowrap',
        border: `1px solid ${on ? token.dye : token.hairline}`,
        bgcolor: on ? token.dye : token.sheet,
        color: on ? token.sheet : token.ink,
      }}
    >
      {children}
    </ButtonBase>
  );
}
