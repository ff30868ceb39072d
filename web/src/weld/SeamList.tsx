import { Box, ButtonBase } from '@mui/material';
import type { SeamWorkup } from '../api/generated/schema';
import { length, type Unit } from '../kit/bench';
import { token } from '../theme';

interface Props {
  /** In the order they are welded. */
  seams: readonly SeamWorkup[];
  shown: SeamWorkup | undefined;
  unit: Unit;
  onSelect: (seam: SeamWorkup) => void;
}

/** All seams in the order they are welded; a press shows one in the bay and on the rod. */
export function SeamList({ seams, shown, unit, onSelect }: Props) {
  return (
    <Box
      component='ol'
      aria-label='Seams in the order they are welded'
      sx={{ m: 0, mb: 1.25, p: 0, listStyle: 'none', border: `1px solid ${token.hairline}` }}
    >
      {seams.map((seam, at) => {
        const mine = seam === shown;
        return (
          <Box
            component='li'
            key={seam.number}
            sx={{ borderTop: at > 0 ? `1px solid ${token.hairline}` : 0 }}
          >
            <ButtonBase
              aria-current={mine}
              onClick={() => onSelect(seam)}
              sx={{
                width: '100%',
                display: 'grid',
                gridTemplateColumns: '26px 26px minmax(0, 1fr) 78px 48px',
                gap: 0.75,
                px: 1,
                py: 0.4,
                font: 'inherit',
                fontSize: 14,
                textAlign: 'left',
                alignItems: 'baseline',
                bgcolor: mine ? token.strawPaper : token.sheet,
                color: seam.welded ? token.inkSoft : token.ink,
              }}
            >
              <span aria-hidden='true'>{seam.welded ? '✓' : `${seam.turn}.`}</span>
              <strong>
                {seam.number}
                {seam.welded && (
                  <Box component='span' sx={{ position: 'absolute', left: -9999 }}>
                    {' '}
                    welded
                  </Box>
                )}
              </strong>
              <Box
                component='span'
                sx={{ overflow: 'hidden', textOverflow: 'ellipsis', whiteSpace: 'nowrap' }}
              >
                {seam.name}
              </Box>
              <Box component='span' sx={{ textAlign: 'right' }}>
                {length(seam.length, unit)}
              </Box>
              <Box component='strong' sx={{ textAlign: 'right' }}>
                {seam.amps.toFixed(0)} A
              </Box>
            </ButtonBase>
          </Box>
        );
      })}
    </Box>
  );
}
