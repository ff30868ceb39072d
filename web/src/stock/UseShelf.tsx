import { Box, Button, Typography } from '@mui/material';
import { useState } from 'react';
import { answered, server, words } from '../api/client';
import type { Edit, JobState, ShelfUses } from '../api/generated/schema';
import { sentence, useBench } from '../kit/bench';
import { token } from '../theme';

interface Props {
  state: JobState;
  onTake: (edit: Edit) => void;
  onProblem: (problem: string) => void;
}

/** What the elbows of the shelf could make: looked for on request, taken one by one or all at once. */
export function UseShelf({ state, onTake, onProblem }: Props) {
  const unit = useBench((bench) => bench.unit);
  const [found, setFound] = useState<{ revision: number; uses: ShelfUses }>();
  const [looking, setLooking] = useState(false);
  // What was found is of the job as it was.
  const uses = found?.revision === state.revision ? found.uses : undefined;
  const look = async () => {
    setLooking(true);
    try {
      const params = { path: { id: state.id } };
      const next = await answered(server.GET('/api/jobs/{id}/stock/elbows', { params }));
      setFound({ revision: state.revision, uses: next });
    } catch (error) {
      onProblem(words(error));
    } finally {
      setLooking(false);
    }
  };
  return (
    <Box component='section' aria-label='What the shelf could make' sx={{ mt: 1.5 }}>
      <Box sx={{ display: 'flex', alignItems: 'center', gap: 1.5, flexWrap: 'wrap' }}>
        <Button variant='outlined' onClick={() => void look()} disabled={looking}>
          Use its elbows
        </Button>
        <Typography variant='body2' color='textSecondary' role='status'>
          {looking && 'trying each elbow in each bend'}
          {!looking && !uses && 'tries each elbow of the shelf in each bend that is made of pies'}
          {uses && said(uses)}
        </Typography>
        {uses?.all && uses.uses.length > 1 && (
          <Button variant='contained' sx={{ ml: 'auto' }} onClick={() => uses.all && onTake(uses.all)}>
            Take all {uses.uses.length}
          </Button>
        )}
      </Box>
      {uses && uses.uses.length > 0 && (
        <Box component='ul' sx={{ listStyle: 'none', m: 0, mt: 0.75, p: 0, bgcolor: token.sheet }}>
          {uses.uses.map((use) => (
            <Box
              component='li'
              key={`${use.run} ${use.bend}`}
              sx={{
                display: 'grid',
                gridTemplateColumns: '56px 1fr auto auto',
                gap: 1.5,
                alignItems: 'center',
                px: 1.25,
                py: 0.5,
                borderBottom: `1px solid ${token.hairline}`,
              }}
            >
              <strong>E{use.elbow}</strong>
              <span>
                <strong>Bend {use.number}</strong> of {use.name}: {sentence(use.how, unit)}
              </span>
              <Box component='span' sx={{ fontSize: 14, color: token.inkSoft, whiteSpace: 'nowrap' }}>
                {use.seams} seams, {use.hours.toFixed(1)} h less
              </Box>
              <Button
                variant='outlined'
                aria-label={`Make bend ${use.number} of ${use.name} of E${use.elbow}`}
                onClick={() => onTake(use.edit)}
              >
                Take it
              </Button>
            </Box>
          ))}
        </Box>
      )}
    </Box>
  );
}

function said({ uses, seams, hours, stopped }: ShelfUses) {
  const more = stopped ? '; the time was up before all was tried' : '';
  if (uses.length === 0) return `none of them saves work in a bend without making something worse${more}`;
  return `${seams} seams and ${hours.toFixed(1)} h less in all${more}`;
}
