import { Box, ButtonBase, Typography } from '@mui/material';
import { useId } from 'react';
import type { Candidate, JobState, Workup } from '../api/generated/schema';
import { useWays } from '../api/hooks';
import { length, sentence, useBench } from '../kit/bench';
import type { Drawing } from '../kit/useDrawing';
import { token } from '../theme';

interface Props {
  state: JobState;
  workup: Workup;
  drawing: Drawing;
}

/** The ways that join the ports, best first; choosing one takes it. */
export function WaysRound({ state, workup, drawing }: Props) {
  const unit = useBench((bench) => bench.unit);
  const found = useWays(state, workup.run);
  const heading = useId();
  const taken = JSON.stringify(workup.decisions.way?.course);
  const ways = found.data?.ways ?? [];
  return (
    <Box component='section' aria-labelledby={heading} sx={{ mt: 1.5 }}>
      <Typography variant='h2' id={heading} sx={{ mb: 0.5 }}>
        Ways round
      </Typography>
      <Typography variant='body2' color='textSecondary' sx={{ mb: 0.75 }}>
        With up to two bends, best first. They are not yet checked against what is in the way.
      </Typography>
      {found.isSuccess && ways.length === 0 && (
        <Typography variant='body2'>None joins these ports: the finding above says why.</Typography>
      )}
      <Box sx={{ display: 'grid', gap: 0.5 }}>
        {ways.map((way, index) => {
          const mine = JSON.stringify(way.way.course) === taken;
          return (
            <ButtonBase
              key={`${way.kind} ${way.score}`}
              aria-pressed={mine}
              onClick={() => drawing.keep({ edit: 'take_way', run: workup.run, way: way.way })}
              sx={{
                display: 'grid',
                gridTemplateColumns: '54px 1fr auto',
                gap: 1,
                alignItems: 'center',
                textAlign: 'left',
                px: 1,
                py: 0.6,
                bgcolor: '#fff',
                border: mine ? `2px solid ${token.straw}` : `1px solid ${token.hairline}`,
                '&:hover': { borderColor: token.dye },
              }}
            >
              <Sketch way={way} />
              <Box sx={{ fontSize: 13.5, lineHeight: 1.3 }}>
                <strong>{index + 1}</strong> {sentence(way.reason, unit)}
              </Box>
              <Box sx={{ fontSize: 13, color: token.inkSoft, textAlign: 'right' }}>
                {length(way.length, unit)}
                <br />
                {way.seams} seams
              </Box>
            </ButtonBase>
          );
        })}
      </Box>
    </Box>
  );
}

/** The way's corners seen from the side it is widest from. */
function Sketch({ way }: { way: Candidate }) {
  const spread = (axis: 0 | 1 | 2) => {
    const along = way.corners.map((corner) => corner[axis]);
    return Math.max(...along) - Math.min(...along);
  };
  const [across, up] = ([0, 1, 2] as const).toSorted((p, q) => spread(q) - spread(p)) as [
    0 | 1 | 2,
    0 | 1 | 2,
  ];
  const scale = Math.min(48 / Math.max(spread(across), 1), 26 / Math.max(spread(up), 1));
  const least = (axis: 0 | 1 | 2) => Math.min(...way.corners.map((corner) => corner[axis]));
  const points = way.corners.map(
    (corner) => `${3 + (corner[across] - least(across)) * scale},${29 - (corner[up] - least(up)) * scale}`,
  );
  return (
    <svg width={54} height={32} aria-hidden='true'>
      <polyline
        points={points.join(' ')}
        fill='none'
        stroke={token.dye}
        strokeWidth={4}
        strokeLinejoin='round'
      />
    </svg>
  );
}
