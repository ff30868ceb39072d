import { Table, TableBody, TableCell, TableHead, TableRow } from '@mui/material';
import type { ReactNode } from 'react';
import type { CutRow } from '../api/generated/schema';
import { degrees, figure, type Unit } from '../kit/bench';
import { token } from '../theme';
import { turnWords } from './turnWords';

interface Props {
  label: string;
  cuts: CutRow[];
  unit: Unit;
  /** What stands before the piece's name, such as its tick. */
  tick?: (cut: CutRow) => ReactNode;
  /** The piece's name, as something to press. */
  name?: (cut: CutRow) => ReactNode;
  chosen?: (cut: CutRow) => boolean;
  onPick?: (cut: CutRow) => void;
}

/** Cuts in the order they are sawn. */
export function CutTable({ label, cuts, unit, tick, name, chosen, onPick }: Props) {
  return (
    <Table size='small' aria-label={label} sx={cells}>
      <TableHead>
        <TableRow>
          <TableCell align='center'>Cut</TableCell>
          <TableCell>Piece</TableCell>
          <TableCell align='right'>Saw</TableCell>
          <TableCell>Up</TableCell>
          <TableCell>Turn</TableCell>
          <TableCell align='right'>Up at</TableCell>
          <TableCell align='right'>Down at</TableCell>
        </TableRow>
      </TableHead>
      <TableBody>
        {cuts.map((cut) => (
          <TableRow
            key={cut.number}
            onClick={onPick && (() => onPick(cut))}
            sx={{
              cursor: onPick ? 'pointer' : undefined,
              bgcolor: chosen?.(cut) ? token.strawPaper : undefined,
            }}
          >
            <TableCell align='center' padding={tick ? 'none' : 'normal'}>
              {tick ? tick(cut) : cut.number}
            </TableCell>
            <TableCell sx={{ whiteSpace: 'nowrap', fontWeight: 700 }}>
              {name ? name(cut) : (cut.frees ?? 'waste')}
            </TableCell>
            <TableCell align='right'>{cut.saw > 0 ? degrees(cut.set, 2) : 'square'}</TableCell>
            <TableCell>{cut.line_up ?? '–'}</TableCell>
            <TableCell sx={{ '&&': { fontSize: 14 } }}>{turnWords(cut, unit)}</TableCell>
            <TableCell align='right' sx={{ fontWeight: 700, '&&': { fontSize: 17 } }}>
              {figure(cut.up, unit)}
            </TableCell>
            <TableCell align='right'>{figure(cut.down, unit)}</TableCell>
          </TableRow>
        ))}
      </TableBody>
    </Table>
  );
}

const cells = {
  '& td, & th': { px: 0.4, py: 0.4 },
  '& td': { fontSize: 15 },
  '& th': { whiteSpace: 'nowrap' },
};
