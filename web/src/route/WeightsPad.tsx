import { Box, ButtonBase, Slider } from '@mui/material';
import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { answered, server } from '../api/client';
import type { JobState, RoutesFound, Weights } from '../api/generated/schema';
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
  return (
    <Box sx={{ mb: 1 }}>
      <Box role='group' aria-label='What counts' sx={{ display: 'flex', flexWrap: 'wrap', gap: '4px' }}>
        {presets.data?.map((preset) => {
          const on = JSON.stringify(preset.weights) === now;
          return (
            <Chip key={preset.name} on={on} title={preset.reason} onClick={() => onChange(preset.weights)}>
              {preset.name}
            </Chip>
          );
        })}
        <Chip on={open} title='Set each weight by hand' onClick={() => setOpen(!open)}>
          By hand
        </Chip>
      </Box>
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
        border: `1px solid ${on ? token.dye : token.hairline}`,
        bgcolor: on ? token.dye : token.sheet,
        color: on ? token.sheet : token.ink,
      }}
    >
      {children}
    </ButtonBase>
  );
}
