import { Box, Button } from '@mui/material';
import type { BayWorkup } from '../api/generated/schema';
import { samePart, useBench } from '../kit/bench';
import type { Drawing } from '../kit/useDrawing';
import { NameField } from '../measure/NameField';
import { PointFields } from '../measure/PointFields';
import { ThingRow } from '../measure/ThingRow';
import { token } from '../theme';

type Triple = [number, number, number];

const first: Triple[] = [
  [700, 300, -100],
  [700, 300, 100],
  [700, -300, 100],
  [700, -300, -100],
];

/** The openings of the car that coolers breathe through, each by its outline. */
export function OpeningList({ bay, drawing }: { bay: BayWorkup; drawing: Drawing }) {
  const { selected, select, selectMade } = useBench();
  const add = async () => {
    const made = await drawing.keep({ step: 'place', edit: 'add_opening', name: 'opening', outline: first });
    if (made) selectMade(made);
  };
  return (
    <>
      <Box role='group' aria-label='Openings' sx={{ mx: -1, borderBottom: `1px solid ${token.hairline}` }}>
        {bay.openings.map((one) => {
          const part = { part: 'opening', opening: one.opening } as const;
          const open = samePart(selected, part);
          const outline = one.outline.map((point) => point.map((c) => c.mm) as Triple);
          const put = (next: { name?: string; outline?: Triple[] }) =>
            drawing.keep({
              step: 'place',
              edit: 'set_opening',
              opening: one.opening,
              name: one.name,
              outline,
              ...next,
            });
          return (
            <Box key={one.opening}>
              <ThingRow
                name={one.name}
                aside={`${outline.length} corners`}
                selected={open}
                onSelect={() => select(open ? { part: 'nothing' } : part)}
              />
              {open && (
                <Box
                  sx={{
                    px: 1,
                    pt: 1,
                    pb: 1.25,
                    borderLeft: `4px solid ${token.straw}`,
                    bgcolor: token.paper,
                  }}
                >
                  <NameField label='What it is' value={one.name} onKeep={(name) => put({ name })} />
                  {outline.map((corner, index) => (
                    <PointFields
                      // biome-ignore lint/suspicious/noArrayIndexKey: corners have no name but their place
                      key={index}
                      label={`corner ${index + 1}`}
                      at={corner}
                      onKeep={(at) => put({ outline: outline.with(index, at) })}
                    />
                  ))}
                  <Box sx={{ display: 'flex', gap: 1, mt: 1 }}>
                    <Button
                      variant='outlined'
                      onClick={() => {
                        const [from, to] = [outline.at(-1), outline[0]];
                        if (!from || !to) return;
                        const between = from.map((c, axis) => (c + (to[axis] ?? c)) / 2) as Triple;
                        void put({ outline: [...outline, between] });
                      }}
                    >
                      Add a corner
                    </Button>
                    {outline.length > 3 && (
                      <Button variant='outlined' onClick={() => void put({ outline: outline.slice(0, -1) })}>
                        Drop the last
                      </Button>
                    )}
                    <Button
                      variant='text'
                      sx={{ ml: 'auto', color: token.fouls }}
                      onClick={() =>
                        void drawing.keep({ step: 'place', edit: 'remove_opening', opening: one.opening })
                      }
                    >
                      Remove it
                    </Button>
                  </Box>
                </Box>
              )}
            </Box>
          );
        })}
      </Box>
      <Button variant='outlined' sx={{ mt: 1 }} onClick={() => void add()}>
        Add an opening
      </Button>
    </>
  );
}
