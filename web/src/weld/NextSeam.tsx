import { Box, Button, Typography } from '@mui/material';
import type { SeamWorkup } from '../api/generated/schema';
import { length, sentence, type Unit } from '../kit/bench';
import { token } from '../theme';
import { QuarterPicture } from './QuarterPicture';
import { timeText } from './words';

interface Props {
  seam: SeamWorkup;
  /** Whether it is the next in the order. */
  isNext: boolean;
  /** How many there are. */
  of: number;
  unit: Unit;
  busy: boolean;
  onDone: (welded: boolean) => void;
}

/** One seam: how the machine is set for it, where it begins, and the button that notes it. */
export function NextSeam({ seam, isNext, of, unit, busy, onDone }: Props) {
  const [wall, other] = seam.walls;
  const thick = other && wall && Math.abs(other.mm - wall.mm) > 0.01;
  return (
    <Box
      component='section'
      aria-label={`Seam ${seam.number}`}
      sx={{
        p: 1.25,
        mb: 1.25,
        bgcolor: isNext ? token.tightPaper : token.sheet,
        border: `1px solid ${isNext ? token.straw : token.hairline}`,
      }}
    >
      <Box sx={{ display: 'flex', alignItems: 'baseline', justifyContent: 'space-between', gap: 1 }}>
        <Typography variant='h2' component='h3'>
          Seam {seam.number}: {seam.name}
        </Typography>
        <Typography variant='body2' sx={{ whiteSpace: 'nowrap' }}>
          {seam.welded ? 'welded' : isNext ? 'next' : `${seam.turn} of ${of}`}
        </Typography>
      </Box>
      <Box sx={{ display: 'grid', gridTemplateColumns: 'auto minmax(0, 1fr) auto', gap: 1.5, my: 0.75 }}>
        <Box>
          <Box sx={{ fontSize: 34, fontWeight: 700, lineHeight: 1.1 }}>
            {seam.amps.toFixed(0)}{' '}
            <Box component='span' sx={{ fontSize: 18, fontWeight: 400 }}>
              A
            </Box>
          </Box>
          <Box sx={{ fontSize: 13, color: token.inkSoft }}>to begin with</Box>
        </Box>
        <Box sx={{ fontSize: 14, lineHeight: 1.4 }}>
          {length(seam.length, unit)}, {seam.word}
          <br />
          {wall && length(wall, unit)}
          {thick && ` on ${length(other, unit)}`}
          {seam.electrode && ` · tungsten ${length(seam.electrode, unit)}`}
          <br />
          cup {length(seam.cup, unit)}, {seam.flow.toFixed(0)} l/min
          <br />
          {seam.tacks} tacks · {timeText(seam.arc)} of arc
        </Box>
        {seam.quarters.length > 0 && <QuarterPicture quarters={seam.quarters} />}
      </Box>
      {seam.quarters.length > 0 && (
        <Typography variant='body2' sx={{ mb: 0.5 }}>
          <strong>Quarters:</strong> {seam.quarters.join(', ')}, seen from A
          {seam.quarters.includes('throat') ? ', the throat up' : ' as it lies in the car'}. Let it cool{' '}
          {timeText(seam.pause)} after each.
        </Typography>
      )}
      {seam.filler && (
        <Typography variant='body2' sx={{ mb: 0.5 }}>
          <strong>Filler</strong> {sentence(seam.filler, unit)}.
        </Typography>
      )}
      <Typography variant='body2' color='textSecondary' sx={{ mb: 1 }}>
        {sentence(seam.why, unit)}.
      </Typography>
      <Button
        variant={seam.welded ? 'outlined' : 'main'}
        fullWidth
        disabled={busy}
        onClick={() => onDone(!seam.welded)}
        // With a glove on.
        sx={{ fontSize: { xs: 20, md: 15 }, py: { xs: 1.5, md: 0.75 } }}
      >
        {seam.welded ? 'Not welded after all' : `Seam ${seam.number} is welded`}
      </Button>
    </Box>
  );
}
