import { Box, Button, Typography } from '@mui/material';
import type { FitStepWorkup } from '../api/generated/schema';
import { sentence, type Unit } from '../kit/bench';
import { token } from '../theme';

interface Props {
  steps: readonly FitStepWorkup[];
  unit: Unit;
  onBack: (deed: string) => void;
}

/** What was measured and done, in order; each may be taken back. */
export function FitSteps({ steps, unit, onBack }: Props) {
  if (steps.length === 0) return null;
  return (
    <Box component='section' aria-label='Measured and done' sx={{ mt: 1.5 }}>
      <Typography variant='h2' component='h3'>
        Measured and done
      </Typography>
      <Box component='ol' sx={{ listStyle: 'none', m: 0, p: 0 }}>
        {steps.map((step) => (
          <Box
            component='li'
            key={step.deed}
            sx={{
              display: 'flex',
              gap: 1,
              alignItems: 'center',
              justifyContent: 'space-between',
              py: 0.5,
              borderTop: `1px solid ${token.hairline}`,
              fontSize: 14,
              lineHeight: 1.3,
            }}
          >
            <Box>
              {step.done && <strong>Done: </strong>}
              {sentence(step.words, unit)}
              {step.lost && (
                <Box sx={{ color: token.fouls }}>
                  ■ The pipe has no such place any more: it does not count.
                </Box>
              )}
              {step.expected && !step.lost && (
                <Box sx={{ color: step.disagrees ? token.fouls : token.inkSoft, fontSize: 13 }}>
                  {step.disagrees ? '■ ' : ''}
                  {sentence(step.expected, unit)}
                  {step.disagrees ? ': read it again, it stands against what was known' : ''}
                </Box>
              )}
            </Box>
            <Button
              variant='text'
              size='small'
              sx={{ whiteSpace: 'nowrap', flexShrink: 0 }}
              aria-label={`Take back: ${sentence(step.words, unit)}`}
              onClick={() => onBack(step.deed)}
            >
              Take back
            </Button>
          </Box>
        ))}
      </Box>
    </Box>
  );
}
