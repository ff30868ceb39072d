import { Box, Button } from '@mui/material';
import { useQuery } from '@tanstack/react-query';
import { answered, server } from '../api/client';
import type { ComponentWorkup } from '../api/generated/schema';
import { useBench } from '../kit/bench';
import { Choice } from '../kit/Choice';
import type { Drawing } from '../kit/useDrawing';

/** Another like it beside it or mirrored, or another one in its place. */
export function LikeIt({ component, drawing }: { component: ComponentWorkup; drawing: Drawing }) {
  const selectMade = useBench((bench) => bench.selectMade);
  const designs = useQuery({
    queryKey: ['component-designs'],
    staleTime: Number.POSITIVE_INFINITY,
    queryFn: () => answered(server.GET('/api/catalogue/components')),
  });
  const copy = async (mirrored: boolean) => {
    const made = await drawing.keep({
      step: 'place',
      edit: 'copy_component',
      component: component.component,
      name: `${component.name}, ${mirrored ? 'mirrored' : 'another'}`,
      by: mirrored ? [0, 0, 0] : [0, 0, 100],
      mirrored,
    });
    if (made) selectMade(made);
  };
  const fit = designs.data?.filter((design) => (design.ports?.length ?? 0) === component.ports.length) ?? [];
  return (
    <Box sx={{ pb: 1 }}>
      <Box sx={{ display: 'flex', gap: 1, my: 1 }}>
        <Button variant='outlined' onClick={() => void copy(false)}>
          Another, 100 above
        </Button>
        <Button variant='outlined' onClick={() => void copy(true)}>
          Its mirror image
        </Button>
      </Box>
      {fit.length > 0 && component.body.length > 0 && (
        <Choice
          label='Put another in its place'
          width='100%'
          value=''
          options={[['', 'which one?'], ...fit.map((design) => [design.name, design.name] as const)]}
          onChange={(name) => {
            const design = fit.find((one) => one.name === name);
            if (design)
              void drawing.keep({
                step: 'place',
                edit: 'swap_component',
                component: component.component,
                with: design,
              });
          }}
        />
      )}
    </Box>
  );
}
