import { Box, ButtonBase } from '@mui/material';
import { type ReactNode, useEffect, useRef } from 'react';
import type { Severity } from '../api/generated/schema';
import { severityLook } from '../kit/Findings';
import { token } from '../theme';

interface Props {
  name: string;
  /** Said small at the right. */
  aside: ReactNode;
  selected: boolean;
  severity?: Severity | undefined;
  /** What is drawn as a ghost: not there yet. */
  ghost?: boolean;
  onSelect: () => void;
}

/** One thing in a list of the Measure step. */
export function ThingRow({ name, aside, selected, severity, ghost, onSelect }: Props) {
  const mark = severity && severityLook(severity);
  const row = useRef<HTMLButtonElement>(null);
  // What is picked in the bay comes to the top of the pad.
  useEffect(() => {
    const pad = row.current?.closest('section');
    if (!selected || !row.current || !pad) return;
    const [mine, seen] = [row.current.getBoundingClientRect(), pad.getBoundingClientRect()];
    const inView = mine.top >= seen.top && mine.bottom < seen.top + seen.height / 3;
    // Only the pad scrolls, never the page round it.
    if (!inView) pad.scrollTop += mine.top - seen.top;
  }, [selected]);
  return (
    <ButtonBase
      ref={row}
      onClick={onSelect}
      aria-pressed={selected}
      sx={{
        display: 'flex',
        width: '100%',
        alignItems: 'baseline',
        justifyContent: 'flex-start',
        gap: 0.75,
        textAlign: 'left',
        px: 1,
        py: 0.6,
        borderTop: `1px solid ${token.hairline}`,
        bgcolor: selected ? token.strawPaper : 'transparent',
        fontSize: 14.5,
      }}
    >
      {mark && (
        <Box component='span' sx={{ color: mark.ink, fontSize: 12 }} aria-label={mark.word}>
          {mark.shape}
        </Box>
      )}
      <Box component='span' sx={{ fontStyle: ghost ? 'italic' : 'normal', fontWeight: selected ? 700 : 400 }}>
        {name}
      </Box>
      <Box component='span' sx={{ ml: 'auto', fontSize: 12.5, color: token.inkSoft, whiteSpace: 'nowrap' }}>
        {aside}
      </Box>
    </ButtonBase>
  );
}
