import { Box, Button, Checkbox, Typography } from '@mui/material';
import { useEffect, useState } from 'react';
import type { Compared, JobState, Workup } from '../api/generated/schema';
import { figure, length, sentence, useBench } from '../kit/bench';
import { Choice } from '../kit/Choice';
import type { Drawing } from '../kit/useDrawing';
import { shownColours, useKept, useTwin } from '../kit/useShown';
import { NameField } from '../measure/NameField';
import { token } from '../theme';

interface Props {
  state: JobState;
  workup: Workup;
  drawing: Drawing;
}

/** Ways kept of one run, side by side, and the run's mirrored twin. */
export function BesideStage({ state, workup, drawing }: Props) {
  const { unit, beside, showBeside } = useBench();
  const kept = useKept(state, workup.run);
  const [name, setName] = useState('');
  const ways = kept.data ?? [];
  const nothing = beside.length === 0;
  const count = workup.decisions.kept?.length ?? 0;
  // Who comes to compare sees something beside; what is then put away stays away.
  // biome-ignore lint/correctness/useExhaustiveDependencies: on coming here, and not again
  useEffect(() => {
    if (nothing) for (let index = 0; index < Math.min(count, 2); index++) showBeside(index, true);
  }, []);
  const rows: readonly (readonly [string, (way: Compared) => string | null | undefined])[] = [
    [`Length, ${unit}`, (way) => way.offer && figure(way.offer.figures.length, unit)],
    ['Bends', (way) => way.offer && String(way.offer.figures.bends)],
    ['Seams', (way) => way.offer && String(way.offer.figures.seams)],
    ['Hours', (way) => way.offer?.figures.hours.toFixed(1)],
    [`Air in hand, ${unit}`, (way) => way.offer && figure(way.offer.figures.margin, unit)],
    ['Loss, kPa', (way) => way.offer?.figures.loss_kpa?.toFixed(2)],
    ['Litres', (way) => way.offer?.figures.litres.toFixed(2)],
    ['Mass, kg', (way) => way.offer?.figures.mass_kg.toFixed(2)],
  ];
  const shown = ways.filter((way) => way.kept == null || beside.includes(way.kept));
  return (
    <>
      <Typography variant='h1' component='h2'>
        Ways beside
      </Typography>
      <Typography variant='body2' color='textSecondary' sx={{ mb: 1 }}>
        Keep the way as it is now, change it freely, and compare. Up to three are drawn beside it.
      </Typography>
      <Box sx={{ display: 'flex', gap: 1, mb: 1.25 }}>
        <NameField label='Name of this way' value={name} onKeep={async (text) => setName(text)} />
        <Button
          variant='main'
          sx={{ whiteSpace: 'nowrap', flexShrink: 0 }}
          disabled={workup.decisions.route.course.kind === 'undecided'}
          onClick={async () => {
            const said = name.trim() || `Way ${(workup.decisions.kept?.length ?? 0) + 1}`;
            if (await drawing.keep({ step: 'route', edit: 'keep_way', run: workup.run, name: said }))
              setName('');
          }}
        >
          Keep it
        </Button>
      </Box>
      {(workup.decisions.kept ?? []).map((way, index) => {
        const colour = beside.indexOf(index);
        return (
          <Box
            // biome-ignore lint/suspicious/noArrayIndexKey: kept ways are named by their place
            key={index}
            sx={{
              display: 'grid',
              gridTemplateColumns: 'auto 1fr auto auto',
              alignItems: 'center',
              borderTop: `1px solid ${token.hairline}`,
            }}
          >
            <Checkbox
              size='small'
              checked={colour >= 0}
              onChange={(_, on) => showBeside(index, on)}
              slotProps={{ input: { 'aria-label': `Show ${way.name} beside` } }}
              sx={{
                color: shownColours[Math.max(colour, 0)],
                '&.Mui-checked': { color: shownColours[Math.max(colour, 0)] },
              }}
            />
            <Box sx={{ fontSize: 14.5 }}>{way.name}</Box>
            <Button
              variant='text'
              onClick={() => drawing.keep({ step: 'route', edit: 'take_kept', run: workup.run, index })}
            >
              Swap in
            </Button>
            <Button
              variant='text'
              onClick={() => {
                showBeside(index, false);
                return drawing.keep({ step: 'route', edit: 'drop_kept', run: workup.run, index });
              }}
            >
              Let go
            </Button>
          </Box>
        );
      })}
      {ways.length > 1 && (
        <Box
          component='table'
          sx={{
            width: '100%',
            mt: 1,
            borderCollapse: 'collapse',
            fontSize: 14,
            '& th, & td': { textAlign: 'right', py: 0.4, pl: 1, borderTop: `1px solid ${token.hairline}` },
            '& th:first-of-type': { textAlign: 'left', pl: 0, fontWeight: 400 },
          }}
        >
          <thead>
            <tr>
              <th scope='col'> </th>
              {shown.map((way) => (
                <th scope='col' key={way.kept ?? 'taken'}>
                  {way.name ?? 'As taken'}
                </th>
              ))}
            </tr>
          </thead>
          <tbody>
            {rows.map(([title, of]) => (
              <tr key={title}>
                <th scope='row'>{title}</th>
                {shown.map((way) => (
                  <td key={way.kept ?? 'taken'}>{of(way) ?? 'not built'}</td>
                ))}
              </tr>
            ))}
          </tbody>
        </Box>
      )}
      <Twin state={state} workup={workup} drawing={drawing} />
    </>
  );
}

function Twin({ state, workup, drawing }: Props) {
  const unit = useBench((bench) => bench.unit);
  const twin = workup.decisions.twin;
  const { data: check } = useTwin(state, workup.run, twin != null);
  const others = state.job.runs.filter((run) => run.id !== workup.run);
  if (others.length === 0) return null;
  const options = [['none', 'No twin'] as const, ...others.map((run) => [String(run.id), run.name] as const)];
  return (
    <Box sx={{ mt: 2 }}>
      <Typography variant='h2' component='h2' sx={{ mb: 0.5 }}>
        Mirrored twin
      </Typography>
      <Typography variant='body2' color='textSecondary' sx={{ mb: 1 }}>
        A twin on the other side follows this way as its mirror image until it is unlinked.
      </Typography>
      <Choice
        label='Twin'
        value={twin == null ? 'none' : String(twin)}
        options={options}
        width='100%'
        onChange={(id) =>
          drawing.keep({
            step: 'route',
            edit: 'set_twin',
            run: workup.run,
            twin: id === 'none' ? null : Number(id),
          })
        }
      />
      {twin != null && check && (
        <Typography variant='body2' sx={{ mt: 1 }}>
          Air in hand: {check.here ? length(check.here, unit) : 'plenty'} here,{' '}
          {check.there ? length(check.there, unit) : 'plenty'} on {check.name}. The sides differ most by{' '}
          <strong>{length(check.differ, unit)}</strong>. {sentence(check.words, unit)}
        </Typography>
      )}
    </Box>
  );
}
