import { Box, Checkbox, IconButton, Tooltip, Typography } from '@mui/material';
import type { EstimateWorkup, Measurand, Reading, ReadingWorkup } from '../api/generated/schema';
import { sentence, useBench } from '../kit/bench';
import { LengthField } from '../kit/LengthField';
import { NumberField } from '../kit/NumberField';
import type { Drawing } from '../kit/useDrawing';
import { token } from '../theme';
import { withFigure } from './readingKinds';

interface Props {
  of: Measurand;
  /** The readings as they are kept, beside what follows from them. */
  readings: readonly Reading[];
  found: EstimateWorkup;
  drawing: Drawing;
}

/** Raw readings, how far each is off, and whether it counts. */
export function Readings({ of, readings, found, drawing }: Props) {
  const unit = useBench((bench) => bench.unit);
  if (readings.length === 0) return null;
  const keep = (index: number, reading: Reading) =>
    drawing.keep({ step: 'measure', edit: 'set_reading', of, index, reading });
  return (
    <Box component='table' aria-label='Readings' sx={{ width: '100%', borderCollapse: 'collapse', mt: 0.5 }}>
      <thead>
        <Box
          component='tr'
          sx={{ '& th': { fontSize: 12, fontWeight: 500, color: token.inkSoft, pb: 0.25 } }}
        >
          <Box component='th' sx={{ width: 24 }}>
            <Hidden>Counts</Hidden>
          </Box>
          <Box component='th' sx={{ textAlign: 'left' }}>
            Reading
          </Box>
          <Box component='th' sx={{ textAlign: 'right', width: 82 }}>
            Read, {unit}
          </Box>
          <Box component='th' sx={{ textAlign: 'right', width: 62 }}>
            Off by
          </Box>
          <Box component='th' sx={{ width: 22 }}>
            <Hidden>Take out</Hidden>
          </Box>
        </Box>
      </thead>
      <tbody>
        {found.readings.map((row, index) => {
          const reading = readings[index];
          if (!reading) return null;
          return (
            <Row
              // biome-ignore lint/suspicious/noArrayIndexKey: readings are named by their place
              key={index}
              row={row}
              onCount={(counts) => void keep(index, { ...reading, counts })}
              onFigure={(value) => keep(index, { ...reading, taken: withFigure(reading.taken, value) })}
              onRemove={() => void drawing.keep({ step: 'measure', edit: 'remove_reading', of, index })}
            />
          );
        })}
      </tbody>
    </Box>
  );
}

interface RowProps {
  row: ReadingWorkup;
  onCount: (counts: boolean) => void;
  onFigure: (value: number) => unknown;
  onRemove: () => void;
}

function Row({ row, onCount, onFigure, onRemove }: RowProps) {
  const unit = useBench((bench) => bench.unit);
  const label = `${row.name}, read`;
  return (
    <Box
      component='tr'
      sx={{
        borderTop: `1px solid ${token.hairline}`,
        bgcolor: row.suspect ? token.tightPaper : 'transparent',
        color: row.counts ? token.ink : token.inkSoft,
        '& td': { py: '3px', verticalAlign: 'middle' },
      }}
    >
      <td>
        <Tooltip title={row.counts ? 'Counts. Set it aside' : 'Set aside. Let it count'}>
          <Checkbox
            size='small'
            checked={row.counts}
            onChange={(event) => onCount(event.target.checked)}
            slotProps={{ input: { 'aria-label': `${row.name} counts` } }}
            sx={{ p: '2px' }}
          />
        </Tooltip>
      </td>
      <Box component='td' sx={{ fontSize: 13.5, lineHeight: 1.2, pr: 0.5 }}>
        {row.suspect && (
          <Box component='span' sx={{ color: token.tightText, fontWeight: 700 }}>
            ▲{' '}
          </Box>
        )}
        <Tooltip title={`${sentence(row.spread, unit)}. ${sentence(row.check, unit)}`}>
          <span>{row.name}</span>
        </Tooltip>
      </Box>
      <Box component='td' sx={{ textAlign: 'right' }}>
        {row.length ? (
          <LengthField label={label} hideLabel hideUnit value={row.length} onKeep={onFigure} width={80} />
        ) : row.degrees == null ? (
          <Typography variant='body2'>held</Typography>
        ) : (
          <NumberField label={label} hideLabel value={row.degrees} unit='°' onKeep={onFigure} width={80} />
        )}
      </Box>
      <Box component='td' sx={{ textAlign: 'right', fontSize: 13.5, whiteSpace: 'nowrap' }}>
        <Off row={row} />
      </Box>
      <td>
        <IconButton aria-label={`Take out ${row.name}`} onClick={onRemove} sx={{ p: '2px', fontSize: 16 }}>
          ×
        </IconButton>
      </td>
    </Box>
  );
}

/** How far a reading is off. What nothing checks is off by nothing whatever it reads, so that it says so instead. */
function Off({ row }: { row: ReadingWorkup }) {
  const unit = useBench((bench) => bench.unit);
  if (row.checked === 'nothing') {
    return (
      <Tooltip title={sentence(row.check, unit)}>
        <Box
          component='span'
          sx={{ color: token.inkSoft, borderBottom: `2px dotted ${token.inkSoft}`, fontSize: 12.5 }}
        >
          unchecked
        </Box>
      </Tooltip>
    );
  }
  const off = row.off ? sentence(row.off, unit).replace(/ (mm|in)$/, '') : '–';
  return (
    <>
      {row.checked === 'hardly' && row.off ? (
        <Tooltip title={sentence(row.check, unit)}>
          <Box component='span' sx={{ color: token.inkSoft }}>
            {off} ?
          </Box>
        </Tooltip>
      ) : (
        off
      )}
      <Strain strain={row.strain} counts={row.counts} />
    </>
  );
}

/** A bar as long as a reading is off beside what it may be; past the end chance does not explain it. */
function Strain({ strain, counts }: { strain: number; counts: boolean }) {
  const share = Math.min(1, strain);
  const colour = strain > 1 ? token.fouls : counts ? token.dye : token.noteEdge;
  return (
    <Box sx={{ height: 3, bgcolor: token.hairline, mt: '2px' }} aria-hidden='true'>
      <Box sx={{ height: 3, width: `${share * 100}%`, bgcolor: colour, ml: 'auto' }} />
    </Box>
  );
}

function Hidden({ children }: { children: string }) {
  return (
    <Box
      component='span'
      sx={{ position: 'absolute', width: '1px', height: '1px', overflow: 'hidden', clipPath: 'inset(50%)' }}
    >
      {children}
    </Box>
  );
}
