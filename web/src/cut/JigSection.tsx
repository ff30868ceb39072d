import { Box, Link } from '@mui/material';
import { useQuery } from '@tanstack/react-query';
import { answered, server } from '../api/client';
import type { JobState } from '../api/generated/schema';
import { figure, length, sentence, useBench } from '../kit/bench';
import { Fold } from '../kit/Fold';
import { token } from '../theme';

interface Props {
  state: JobState;
  run: number;
}

/** Two posts on a board that hold the run's mouths as the car does, and the distances that prove it. */
export function JigSection(props: Props) {
  return (
    <Box sx={{ mt: 1.5 }}>
      <Fold name='Jig for the bench' aside='tack it away from the car'>
        <Jig {...props} />
      </Fold>
    </Box>
  );
}

function Jig({ state, run }: Props) {
  const unit = useBench((bench) => bench.unit);
  const jig = useQuery({
    queryKey: ['jig', state.id, state.revision, run],
    placeholderData: (before) => before,
    queryFn: () =>
      answered(server.GET('/api/jobs/{id}/runs/{run}/jig', { params: { path: { id: state.id, run } } })),
  });
  if (!jig.data) return null;
  return (
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
      <Link href={`/api/jobs/${state.id}/runs/${run}/jig.svg`} download>
        Draw it 1:1
      </Link>
      <Box sx={{ borderTop: `1px solid ${token.hairline}`, py: 0.75, mt: 0.75 }}>
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
  );
}
