import { Box, Typography } from '@mui/material';
import { useQuery } from '@tanstack/react-query';
import { useParams } from 'react-router';
import { answered, server, words } from '../api/client';
import type { PartRef, SetPoint } from '../api/generated/schema';
import { token } from '../theme';
import { sentence, useBench } from './bench';
import { Fold } from './Fold';

interface Props {
  part: PartRef;
  /** What of the job the answer follows from: it is asked for anew when this changes. */
  follows: unknown;
}

/** How what is planned is marked on the car: each point of a part by three readings from datums. */
export function SetOut({ part, follows }: Props) {
  return (
    <Box sx={{ mt: 1.25 }}>
      <Fold name='Set it out on the car' aside='by tape and level'>
        <Points part={part} follows={follows} />
      </Fold>
    </Box>
  );
}

function Points({ part, follows }: Props) {
  const id = Number(useParams().id);
  const set = useQuery({
    queryKey: ['set out', id, part, follows],
    placeholderData: (before) => before,
    queryFn: () =>
      answered(server.POST('/api/jobs/{id}/set-out', { params: { path: { id } }, body: { part } })),
  });
  if (set.isError) {
    return (
      <Typography role='alert' variant='body2' sx={{ color: token.fouls }}>
        {words(set.error)}
      </Typography>
    );
  }
  if (set.data?.points.length === 0) {
    return <Typography variant='body2'>It has no point that could be marked.</Typography>;
  }
  return set.data?.points.map((point) => <Point key={point.name} point={point} />);
}

function Point({ point }: { point: SetPoint }) {
  const unit = useBench((bench) => bench.unit);
  const { set, hidden } = point;
  return (
    <Box sx={{ borderTop: `1px solid ${token.hairline}`, py: 0.75, fontSize: 14, lineHeight: 1.35 }}>
      <strong>{point.name.charAt(0).toUpperCase() + point.name.slice(1)}</strong>
      {set ? (
        <>
          <Box component='ul' sx={{ m: 0, pl: 2.5, fontSize: 16, fontWeight: 600 }}>
            {set.readings.map((reading) => (
              <li key={`${reading.kind} ${reading.datum}`}>{sentence(reading.words, unit)}</li>
            ))}
          </Box>
          <Box sx={{ color: token.inkSoft, fontSize: 13 }}>{sentence(set.words, unit)}</Box>
        </>
      ) : (
        <Box sx={{ color: token.tightText }}>
          The datums that can be seen from there do not fix it. Add one nearer, or square to the others.
        </Box>
      )}
      {hidden.length > 0 && (
        <Box sx={{ color: token.inkSoft, fontSize: 13 }}>Not seen from there: {hidden.join(', ')}.</Box>
      )}
    </Box>
  );
}
