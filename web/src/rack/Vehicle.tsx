import { Box, Link as MuiLink, Typography } from '@mui/material';
import { Link } from 'react-router';
import type { JobState, VehicleWorkup } from '../api/generated/schema';
import { bayAt, logAt, stockAt } from '../head/steps';
import { length, sentence, useBench } from '../kit/bench';
import { token } from '../theme';
import { Part } from './Part';
import { TakenApart } from './TakenApart';

/** What concerns the vehicle as a whole, each part from the step that knows it. */
export function Vehicle({ state, vehicle }: { state: JobState; vehicle: VehicleWorkup }) {
  const unit = useBench((bench) => bench.unit);
  const { measured } = vehicle;
  const left = vehicle.pieces - vehicle.cut;
  return (
    <Box
      component='section'
      aria-label='The whole vehicle'
      sx={{
        display: 'grid',
        gridTemplateColumns: { xs: '1fr', sm: '1fr 1fr', lg: 'repeat(4, 1fr)' },
        borderTop: `3px solid ${token.ink}`,
        bgcolor: token.plate,
      }}
    >
      <Part name='The bay' figure={`${measured.boxes + measured.things} things, ${measured.datums} datums`}>
        {measured.worst ? sentence(measured.worst, unit) : 'Nothing is wrong with what was measured.'}{' '}
        <MuiLink component={Link} to={bayAt(state.id)} sx={{ whiteSpace: 'nowrap' }}>
          Measure the bay
        </MuiLink>
      </Part>
      <Part
        name='To the saw'
        figure={
          vehicle.pieces === 0
            ? 'Nothing yet'
            : left === 0
              ? 'All cut'
              : `${left} of ${vehicle.pieces} pieces`
        }
      >
        Which piece comes from which stick, what the shelf gives and what is bought.{' '}
        <MuiLink component={Link} to={stockAt(state.id)} sx={{ whiteSpace: 'nowrap' }}>
          From the shelf
        </MuiLink>
      </Part>
      <Part name='To buy' figure={vehicle.buy.length === 0 ? 'Nothing yet' : `${vehicle.buy.length} kinds`}>
        <Box component='ul' sx={{ m: 0, pl: 0, listStyle: 'none' }}>
          {vehicle.buy.map((line) => (
            <Box
              component='li'
              key={line.what.mm}
              sx={{ display: 'flex', justifyContent: 'space-between', gap: 1.5 }}
            >
              <span>{sentence(line.what, unit)}</span>
              <Box component='strong' sx={{ whiteSpace: 'nowrap', color: token.ink }}>
                {line.length ? length(line.length, unit) : line.count}
              </Box>
            </Box>
          ))}
        </Box>
        {vehicle.buy.some((line) => line.length) && (
          <Typography variant='body2' color='textSecondary'>
            Tube as one endless stick, before what the shelf has.
          </Typography>
        )}
        {vehicle.buy.length > 0 &&
          'For runs of which nothing is cut; lengths are of one stick, kerf included.'}
      </Part>
      <Part name='Hours' figure={`${vehicle.likely.map((hours) => hours?.toFixed(0)).join(' to ')} h`}>
        {vehicle.from_runs === 0
          ? 'By the usual rates.'
          : `By the usual rates and ${vehicle.from_runs} ${vehicle.from_runs === 1 ? 'run' : 'runs'} of yours.`}{' '}
        {vehicle.spent > 0 && `${vehicle.spent.toFixed(1)} h are noted. `}
        <MuiLink component={Link} to={logAt(state.id)} sx={{ whiteSpace: 'nowrap' }}>
          The log
        </MuiLink>
      </Part>
      <TakenApart state={state} />
    </Box>
  );
}
