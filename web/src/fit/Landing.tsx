import { Box, Button, Typography } from '@mui/material';
import { useQuery } from '@tanstack/react-query';
import { answered, server } from '../api/client';
import type { JobState, LandingRemedy, Making, Workup } from '../api/generated/schema';
import { workupsKey } from '../api/hooks';
import { sentence, type Unit, useBench } from '../kit/bench';
import type { Drawing } from '../kit/useDrawing';
import { token } from '../theme';
import { ChanceBar, inHundred } from './ChanceBar';

interface Props {
  state: JobState;
  workup: Workup;
  drawing: Drawing;
}

/** Whether the pipe will land once it is made as listed, what that hangs on, and what would raise it. */
export function Landing({ state, workup, drawing }: Props) {
  const unit = useBench((bench) => bench.unit);
  const { run } = workup;
  const landing = useQuery({
    queryKey: [...workupsKey(state.id), 'landing', state.revision, run],
    placeholderData: (before) => before,
    queryFn: () =>
      answered(server.GET('/api/jobs/{id}/runs/{run}/landing', { params: { path: { id: state.id, run } } })),
  });
  const { data } = landing;
  if (data?.chance == null || data.run !== run) return null;
  const { chance, causes, remedies, making } = data;
  const best = remedies[0];
  return (
    <Box
      component='section'
      aria-label='Will it land?'
      sx={{ mb: 1.5, p: 1.25, border: `1px solid ${token.hairline}`, bgcolor: token.sheet }}
    >
      <Box sx={{ display: 'flex', alignItems: 'baseline', justifyContent: 'space-between', gap: 1 }}>
        <Typography variant='h2' component='h3'>
          Will it land?
        </Typography>
        <Box sx={{ fontSize: 20, fontWeight: 700, color: token.dye }}>{inHundred(chance)}</Box>
      </Box>
      <Box sx={{ display: 'flex', my: 0.5 }}>
        <ChanceBar chance={chance} then={best?.chance} />
      </Box>
      <Typography variant='body2' color='textSecondary'>
        So many pipes made so go on without being cut again. Most of what is off comes from{' '}
        {causes
          .map((cause) => `${cause.words} (${Math.round(cause.share * 100)} %)`)
          .join(', ')
          .replace(/, ([^,]*)$/, ' and $1')}
        .
      </Typography>
      {remedies.length > 0 && (
        <Box component='ul' aria-label='What would raise it' sx={{ listStyle: 'none', m: 0, mt: 0.75, p: 0 }}>
          {remedies.map((remedy) => (
            <Remedy key={remedy.words.mm} remedy={remedy} unit={unit} drawing={drawing} />
          ))}
        </Box>
      )}
      <Decided making={making} run={run} drawing={drawing} />
    </Box>
  );
}

interface RemedyProps {
  remedy: LandingRemedy;
  unit: Unit;
  drawing: Drawing;
}

/** One thing that would raise the chance, and what it would come to. */
function Remedy({ remedy, unit, drawing }: RemedyProps) {
  const { edit } = remedy;
  return (
    <Box
      component='li'
      sx={{
        display: 'grid',
        gridTemplateColumns: '64px minmax(0, 1fr) auto',
        gap: 1,
        alignItems: 'center',
        py: 0.5,
        borderTop: `1px solid ${token.hairline}`,
      }}
    >
      <Box sx={{ lineHeight: 1.1 }}>
        <Box sx={{ fontWeight: 700, fontSize: 18 }}>{Math.round(remedy.chance * 100)}</Box>
        <Box sx={{ fontSize: 12, color: token.inkSoft }}>of 100</Box>
      </Box>
      <Box sx={{ fontSize: 14, lineHeight: 1.3 }}>{sentence(remedy.words, unit)}.</Box>
      {edit && (
        <Button
          variant='outlined'
          size='small'
          aria-label={`Do it so: ${sentence(remedy.words, unit)}`}
          onClick={() => void drawing.keep(edit)}
        >
          Do it so
        </Button>
      )}
    </Box>
  );
}

const said: Record<keyof Making, string> = {
  true_bends: 'every bend is trued by the gauge',
  closing_last: 'its closing piece is cut last',
  on_vehicle: 'it is tacked on the car, the closing piece cut last',
};

/** What was decided of how it is made, each to be taken back. */
function Decided({ making, run, drawing }: { making: Making; run: number; drawing: Drawing }) {
  const on = (Object.keys(said) as (keyof Making)[]).filter((key) => making[key]);
  return on.map((key) => (
    <Box
      key={key}
      sx={{
        display: 'flex',
        justifyContent: 'space-between',
        alignItems: 'center',
        gap: 1,
        pt: 0.5,
        mt: 0.5,
        borderTop: `1px solid ${token.hairline}`,
        fontSize: 14,
      }}
    >
      <span>
        <strong>Counted:</strong> {said[key]}.
      </span>
      <Button
        variant='text'
        size='small'
        aria-label={`Not so: ${said[key]}`}
        onClick={() =>
          void drawing.keep({ step: 'cut', edit: 'set_making', run, making: { ...making, [key]: false } })
        }
      >
        Not so
      </Button>
    </Box>
  ));
}
