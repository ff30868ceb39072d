import { Table, TableBody, TableCell, TableHead, TableRow, Typography } from '@mui/material';

interface Props {
  title: string;
  heads: string[];
  /** Cells as text, a row each; told apart by their first `keyed` cells. */
  rows: string[][];
  keyed?: number;
}

/** A titled table of plain figures, the first column to the left and the rest to the right. */
export function PlainTable({ title, heads, rows, keyed = 1 }: Props) {
  return (
    <>
      <Typography variant='h2' sx={{ mt: 2, mb: 0.5 }}>
        {title}
      </Typography>
      <Table size='small' aria-label={title} sx={{ '& td, & th': { px: 0.4, py: 0.4 } }}>
        <TableHead>
          <TableRow>
            {heads.map((head, column) => (
              <TableCell key={head} align={column === 0 ? 'left' : 'right'}>
                {head}
              </TableCell>
            ))}
          </TableRow>
        </TableHead>
        <TableBody>
          {rows.map((row) => (
            <TableRow key={row.slice(0, keyed).join(' ')}>
              {row.map((cell, column) => (
                <TableCell key={heads[column]} align={column === 0 ? 'left' : 'right'}>
                  {cell}
                </TableCell>
              ))}
            </TableRow>
          ))}
        </TableBody>
      </Table>
    </>
  );
}
