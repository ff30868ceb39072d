import { Box, Button, Typography } from '@mui/material';
import type { BoreExtremeWorkup, Workup } from '../api/generated/schema';
import { length, useBench } from '../kit/bench';
import type { Drawing } from '../kit/useDrawing';
import { branchNames } from '../measure/names';
import { token } from '../theme';
import { BranchSign } from './BranchSign';
import { ListRow } from './ListRow';

interface Props {
  workup: Workup;
  drawing: Drawing;
}

/** What is let into the tube, and the highs and lows of its bore where a liquid flows. */
export function LetInList({ workup, drawing }: Props) {
  const unit = useBench((bench) => bench.unit);
  const { run, branches, bore_extremes } = workup;
  if (branches.length === 0 && bore_extremes.length === 0) return null;
  return (
    <Box component='section' aria-label='What is let in' sx={{ mb: 1.5 }}>
      <Typography variant='h2'>What is let in</Typography>
      {branches.map((branch) => (
        <ListRow
          key={branch.branch}
          part={{ part: 'branch', run, branch: branch.branch }}
          sign={<BranchSign kind={branch.kind} />}
          name={branch.name.replace(/^.* on /, 'On ')}
          below={`${branchNames[branch.kind]} · ${length(branch.od, unit)}`}
        >
          <Box sx={{ fontSize: 13, color: token.inkSoft, textAlign: 'right' }}>
            {length(branch.at, unit)} from A
          </Box>
        </ListRow>
      ))}
      {bore_extremes.map((one) => (
        <Extreme key={`${one.high} ${one.at.mm}`} one={one} drawing={drawing} />
      ))}
    </Box>
  );
}

/** A high or a low of the bore, and what serves it. */
function Extreme({ one, drawing }: { one: BoreExtremeWorkup; drawing: Drawing }) {
  const unit = useBench((bench) => bench.unit);
  const { edit } = one;
  return (
    <Box
      sx={{
        display: 'flex',
        alignItems: 'center',
        gap: 1,
        minHeight: 34,
        borderTop: `1px solid ${token.hairline}`,
        fontSize: 14,
      }}
    >
      <Box sx={{ flex: 1, color: one.high && !one.served ? token.tightText : token.inkSoft }}>
        {one.high ? 'High' : 'Low'} at {length(one.at, unit)} from A:{' '}
        {one.served ? (one.high ? 'bled' : 'drained') : one.high ? 'air stays there' : 'not drained'}
      </Box>
      {edit && (
        <Button size='small' variant='outlined' onClick={() => void drawing.keep(edit)}>
          {one.high ? 'Bleed it' : 'Drain it'}
        </Button>
      )}
    </Box>
  );
}
