import { Box, ButtonBase } from '@mui/material';
import type { ReactNode } from 'react';
import type { PartRef } from '../api/generated/schema';
import { useBench } from '../kit/bench';
import { token } from '../theme';

interface Props {
  part: PartRef;
  sign: ReactNode;
  name: string;
  /** Said small below it. */
  below: string;
  children: ReactNode;
}

/** One thing of a list: its sign, its name, and a figure at the right; a press opens it. */
export function ListRow({ part, sign, name, below, children }: Props) {
  const select = useBench((bench) => bench.select);
  return (
    <ButtonBase
      onClick={() => select(part)}
      sx={{
        width: '100%',
        gap: 1,
        py: 0.5,
        borderTop: `1px solid ${token.hairline}`,
        justifyContent: 'flex-start',
        textAlign: 'left',
      }}
    >
      {sign}
      <Box sx={{ flex: 1, minWidth: 0, lineHeight: 1.2 }}>
        <Box sx={{ fontSize: 14, whiteSpace: 'nowrap', overflow: 'hidden', textOverflow: 'ellipsis' }}>
          {name}
        </Box>
        <Box sx={{ fontSize: 12.5, color: token.inkSoft }}>{below}</Box>
      </Box>
      {children}
    </ButtonBase>
  );
}
