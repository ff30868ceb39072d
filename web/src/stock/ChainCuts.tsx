import { Box, Button, Typography } from '@mui/material';
import type { ChainWorkup } from '../api/generated/schema';
import { CutTable } from '../cut/CutTable';
import { degrees, figure, length, type Unit } from '../kit/bench';
import { PlainTable } from '../kit/PlainTable';
import { token } from '../theme';

/** How one chain is sawn from its stick: marks from the stick's squared end. */
export function ChainCuts({ chain, unit, onClose }: { chain: ChainWorkup; unit: Unit; onClose: () => void }) {
  return (
    <Box
      component='section'
      aria-label={`Cuts of ${chain.name}`}
      sx={{ mt: 0.5, p: 1.5, bgcolor: token.paper, border: `1px solid ${token.hairline}` }}
    >
      <Box sx={{ display: 'flex', alignItems: 'baseline', gap: 1.5 }}>
        <Typography variant='h2'>{chain.name}</Typography>
        <Typography variant='body2' color='textSecondary'>
          from {length(chain.from, unit)} on the stick, {length(chain.takes, unit)} of it
        </Typography>
        <Button variant='outlined' onClick={onClose} sx={{ ml: 'auto' }}>
          Close
        </Button>
      </Box>
      {chain.lines.length > 0 && (
        <Typography variant='body2' sx={{ py: 0.5 }}>
          Scribe along it, round the girth from the first, clockwise seen from the squared end:{' '}
          {chain.lines.map((line) => `${line.name} ${figure(line.round, unit)}`).join(', ')} {unit}.
        </Typography>
      )}
      <CutTable label='Cuts' cuts={chain.cuts} unit={unit} />
      {chain.joins.length > 0 && (
        <>
          <PlainTable
            title='Put together'
            heads={['Piece', 'Towards A', 'Towards B']}
            rows={chain.pieces.map((piece) => [
              piece,
              joinWords(chain, piece, true),
              joinWords(chain, piece, false),
            ])}
          />
          <Typography variant='body2' color='textSecondary'>
            The piece it meets, and which of its own lines stands where: clockwise from up, seen from A along
            the pipe. The line of what it meets stands there too.
          </Typography>
        </>
      )}
    </Box>
  );
}

/** What a piece meets on one side, and how it is turned to that. */
function joinWords(chain: ChainWorkup, piece: string, towardsA: boolean): string {
  const join = chain.joins.find((one) => one.piece === piece && one.towards_a === towardsA);
  return join ? `${join.meets}: ${join.line} at ${degrees(join.stands)}` : '–';
}
