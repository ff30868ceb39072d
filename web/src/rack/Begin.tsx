import { Box, Button, Typography } from '@mui/material';
import { Link } from 'react-router';
import type { BeginLine, BeginStage, JobState } from '../api/generated/schema';
import { bayAt } from '../head/steps';
import type { Stage } from '../kit/bench';
import { headingFont, token } from '../theme';

const names: Record<BeginStage, { name: string; act: string; stage: Stage }> = {
  datums: { name: 'Datums', act: 'Set datums', stage: 'datums' },
  boxes: { name: 'Big boxes', act: 'Place the boxes', stage: 'boxes' },
  ports: { name: 'The first two mouths', act: 'Add the first run', stage: 'ports' },
  way: { name: 'What is in the way', act: 'Say what is in the way', stage: 'way' },
};

interface Props {
  state: JobState;
  begin: BeginLine[];
  onNewRun: () => void;
}

/** An empty rack: what to do first, in the order the work goes. Any of it can be done at any time. */
export function Begin({ state, begin, onNewRun }: Props) {
  const next = begin.find((line) => !line.enough)?.stage;
  return (
    <Box component='ol' aria-label='What to begin with' sx={{ listStyle: 'none', m: 0, p: 0 }}>
      {begin.map((line, index) => {
        const { name, act, stage } = names[line.stage];
        const variant = line.stage === next ? 'main' : 'outlined';
        return (
          <Box
            component='li'
            key={line.stage}
            sx={{
              display: 'grid',
              gridTemplateColumns: { xs: '44px minmax(0, 1fr)', sm: '60px minmax(0, 1fr) auto' },
              columnGap: 2,
              rowGap: 1,
              alignItems: 'center',
              px: { xs: 1.5, sm: 3 },
              py: 2,
              borderBottom: `1px solid ${token.hairline}`,
              bgcolor: token.paper,
            }}
          >
            <Box
              aria-hidden='true'
              sx={{
                display: 'grid',
                placeItems: 'center',
                height: 44,
                fontFamily: headingFont,
                fontSize: 23,
                fontWeight: 600,
                color: line.enough ? token.sheet : token.dye,
                bgcolor: line.enough ? token.dye : 'transparent',
                border: `2px solid ${token.dye}`,
              }}
            >
              {line.enough ? '✓' : index + 1}
            </Box>
            <Box>
              <Typography variant='h2' component='h2'>
                {name}
                <Box component='span' sx={{ ml: 1, fontSize: 15, color: token.inkSoft }}>
                  {line.count === 0 ? 'none yet' : `${line.count} so far`}
                </Box>
              </Typography>
              <Typography variant='body2' color='textSecondary'>
                {line.words}
              </Typography>
            </Box>
            {line.stage === 'ports' ? (
              <Button variant={variant} onClick={onNewRun}>
                {act}
              </Button>
            ) : (
              <Button variant={variant} component={Link} to={bayAt(state.id)} state={{ stage }}>
                {act}
              </Button>
            )}
          </Box>
        );
      })}
    </Box>
  );
}
