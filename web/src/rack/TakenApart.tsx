import { Box, Button, Link as MuiLink } from '@mui/material';
import { Link } from 'react-router';
import type { BayPart, JobState, TakingApart } from '../api/generated/schema';
import { useApart } from '../api/useApart';
import { runAt } from '../head/steps';
import { sentence, useBench } from '../kit/bench';
import { LookingBar } from '../kit/LookingBar';
import { token } from '../theme';
import { Part } from './Part';

/** The order in which every pipe comes apart, looked for on request. */
export function TakenApart({ state }: { state: JobState }) {
  const { looked, look, callOff } = useApart('order', state.revision);
  const { found, share, problem } = looked ?? {};
  const figure = found
    ? `${found.steps.length} come off${found.stuck.length ? `, ${found.stuck.length} do not` : ''}`
    : share !== undefined
      ? 'Looking'
      : 'Not looked at yet';
  return (
    <Part name='Taking it apart' figure={figure} whole>
      {!found && share === undefined && (
        <Box sx={{ display: 'flex', flexWrap: 'wrap', alignItems: 'center', columnGap: 2, rowGap: 0.5 }}>
          <span>Each section past what is left, with 2 mm of air: a minute at most.</span>
          <Button variant='outlined' size='small' onClick={() => look(`/api/jobs/${state.id}/apart`)}>
            In which order does it come apart?
          </Button>
        </Box>
      )}
      {share !== undefined && (
        <LookingBar share={share} label='How far the search for the order is' onCallOff={callOff} />
      )}
      {problem && (
        <Box role='alert' sx={{ color: token.fouls }}>
          {problem}
        </Box>
      )}
      {found && <Order state={state} found={found} />}
    </Part>
  );
}

function Order({ state, found }: { state: JobState; found: TakingApart }) {
  const unit = useBench((bench) => bench.unit);
  const name = (part: BayPart, said: string) =>
    part.part === 'section' ? (
      <MuiLink component={Link} to={runAt(state.id, part.run, 'join')} sx={{ fontWeight: 700 }}>
        {said}
      </MuiLink>
    ) : (
      <strong>{said}</strong>
    );
  const columns = { columnWidth: 380, columnGap: 4, m: 0, '& li': { breakInside: 'avoid', py: 0.25 } };
  return (
    <Box role='status'>
      <Box component='ol' aria-label='What comes off, in turn' sx={{ ...columns, pl: 3 }}>
        {found.steps.map((one) => (
          <li key={JSON.stringify(one.part)}>
            {name(one.part, one.name)}: {sentence(one.words, unit)}
          </li>
        ))}
      </Box>
      {found.stuck.length > 0 && (
        <Box
          component='ul'
          aria-label='What stays'
          sx={{ ...columns, listStyle: 'none', pl: 0, mt: 0.5, color: token.tightText }}
        >
          {found.stuck.map((one) => (
            <li key={JSON.stringify(one.part)}>
              {name(one.part, one.name)}: {sentence(one.words, unit)}
            </li>
          ))}
        </Box>
      )}
    </Box>
  );
}
