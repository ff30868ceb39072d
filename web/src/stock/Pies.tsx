import { Box, Button, Typography } from '@mui/material';
import type { PiePlan, SawnFrom } from '../api/generated/schema';
import { sentence, useBench } from '../kit/bench';
import { token } from '../theme';

/** Where the bought pies come from, bend by bend. */
export function Pies({ pies, onSawn }: { pies: PiePlan[]; onSawn: (from: SawnFrom) => void }) {
  const unit = useBench((bench) => bench.unit);
  return (
    <Box component='section' aria-label='Bought pies' sx={{ mt: 2 }}>
      <Typography variant='h2' sx={{ borderBottom: `2px solid ${token.ink}`, pb: 0.25 }}>
        Bought pies
      </Typography>
      <Box component='ul' sx={{ listStyle: 'none', m: 0, p: 0 }}>
        {pies.map((one) => (
          <Box
            component='li'
            key={`${one.run} ${one.bend}`}
            sx={{
              display: 'grid',
              gridTemplateColumns: '110px 1fr auto auto',
              gap: 1.5,
              alignItems: 'baseline',
              py: 0.75,
              borderBottom: `1px solid ${token.hairline}`,
            }}
          >
            <Source pies={one} />
            <span>{sentence(one.what, unit)}</span>
            <span>
              <strong>{one.need}</strong> for bend {one.number}, {one.name}
            </span>
            <Button
              variant='text'
              sx={{ p: 0, minHeight: 0, fontSize: 13.5 }}
              aria-label={`The pies of bend ${one.number} of ${one.name} are used`}
              onClick={() => onSawn({ what: 'pies', run: one.run, bend: one.bend })}
            >
              They are used
            </Button>
          </Box>
        ))}
      </Box>
    </Box>
  );
}

function Source({ pies }: { pies: PiePlan }) {
  return (
    <span>
      {pies.shelf != null && (
        <strong>
          P{pies.shelf}: {pies.from_shelf}{' '}
        </strong>
      )}
      {pies.bought > 0 && (
        <strong style={{ color: token.dye }}>
          Buy {pies.bought} at {pies.price.toFixed(2)}
        </strong>
      )}
      {pies.missing > 0 && <strong style={{ color: token.fouls }}>{pies.missing} not sold yet</strong>}
    </span>
  );
}
