import { Box, ButtonBase, Typography } from '@mui/material';
import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { answered, server } from '../api/client';
import type { JobState } from '../api/generated/schema';
import { figure, length, sentence, useBench } from '../kit/bench';
import { token } from '../theme';

interface Props {
  state: JobState;
  run: number;
}

/** Two posts on a board that hold the run's mouths as the car does, and the distances that prove it. */
export function JigSection({ state, run }: Props) {
  const unit = useBench((bench) => bench.unit);
  const [open, setOpen] = useState(false);
  const jig = useQuery({
    queryKey: ['jig', state.id, state.revision, run],
    enabled: open,
    placeholderData: (before) => before,
    queryFn: () =>
      answered(server.GET('/api/jobs/{id}/runs/{run}/jig', { params: { path: { id: state.id, run } } })),
  });
  return (
    <Box component='section' aria-label='Jig for the bench' sx={{ mt: 1.5 }}>
      <ButtonBase
        aria-expanded={open}
        onClick={() => setOpen(!open)}
        sx={{ width: '100%', justifyContent: 'space-between', py: 0.25 }}
      >
        <Typography variant='h2' component='h3'>
          Jig for the bench
        </Typography>
        <Typography variant='body2' color='textSecondary'>
          tack it away from the car {open ? '▴' : '▾'}
        </Typography>
      </ButtonBase>
      {open && jig.data && (
        <Box sx={{ fontSize: 14, lineHeight: 1.4 }}>
          Two posts on a level board. The line runs from A’s foot to B’s; the pipe hangs{' '}
          {length(jig.data.under, unit)} over the board at its lowest.
          {jig.data.posts.map((post) => (
            <Box key={post.end} sx={{ borderTop: `1px solid ${token.hairline}`, py: 0.75, mt: 0.5 }}>
              <strong>
                {post.end.toUpperCase()} {post.name}
              </strong>
              , stub {length(post.od, unit)}. Foot {figure(post.foot[0], unit)} along,{' '}
              {figure(post.foot[1], unit)} to the left. {sentence(post.words, unit)}
            </Box>
          ))}
          <Box sx={{ borderTop: `1px solid ${token.hairline}`, py: 0.75 }}>
            <strong>Check it</strong> with a straight stick in each mouth, {length(jig.data.stick, unit)} out:
            <Box component='ul' sx={{ m: 0, pl: 2.5 }}>
              {jig.data.checks.map((check) => (
                <li key={check.between}>
                  {check.between}: <strong>{length(check.mm, unit)}</strong>
                </li>
              ))}
            </Box>
          </Box>
        </Box>
      )}
    </Box>
  );
}
