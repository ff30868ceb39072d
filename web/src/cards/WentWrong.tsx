import { Box, Button, Typography } from '@mui/material';
import { useEffect, useRef, useState } from 'react';
import { words } from '../api/client';
import type { CardPiece, Measure } from '../api/generated/schema';
import { readLength } from '../api/hooks';
import { degrees, figure, length, type Unit } from '../kit/bench';
import { PlainField } from '../kit/PlainField';
import { token } from '../theme';
import type { Otherwise } from './CardDesk';

interface Props {
  piece: CardPiece;
  /** What is left of the stick once the piece is off as listed; nothing where no stick is named. */
  left: Measure | null | undefined;
  unit: Unit;
  onKeep: (otherwise: Otherwise) => void;
  onClose: () => void;
}

/** A piece that came out otherwise, or that is scrap. */
export function WentWrong({ piece, left, unit, onKeep, onClose }: Props) {
  const { run } = piece;
  const [long, setLong] = useState('');
  const [saw, setSaw] = useState('');
  const [rest, setRest] = useState(left ? figure(left, unit) : '');
  const [problem, setProblem] = useState<string>();
  const box = useRef<HTMLElement>(null);
  useEffect(() => box.current?.scrollIntoView({ block: 'end' }), []);
  const { as_cut } = piece;
  const { size } = as_cut;
  const keep = async () => {
    try {
      const longest = long.trim() ? (await readLength(long, unit)).mm : size.longest;
      const turned = saw.trim() ? Number(saw.replace(',', '.').replace('°', '')) : size.saws[1];
      if (!Number.isFinite(turned) || turned < 0 || turned >= 90) {
        throw new Error('The saw is set between 0 and 90 degrees from square');
      }
      // As much longer or shorter all along as on the line that was measured.
      const centre = size.centre + longest - size.longest;
      if (centre < 0)
        throw new Error(`A piece of that length has nothing left; ${length(piece.longest, unit)} was wanted`);
      const came = { ...as_cut, size: { centre, longest, saws: [size.saws[0], turned] as [number, number] } };
      const off = left ? Math.max(0, left.mm + size.longest - longest) : undefined;
      onKeep({ what: { deed: 'cut', run, piece: piece.piece, as_cut: came }, isCut: true, left: off });
    } catch (error) {
      setProblem(words(error));
    }
  };
  const scrap = async () => {
    try {
      const off = left ? (await readLength(rest, unit)).mm : undefined;
      if (off !== undefined && off < 0) throw new Error('What is left of a stick is not less than nothing');
      onKeep({ what: { deed: 'spoilt', run, piece: piece.piece }, isCut: false, left: off });
    } catch (error) {
      setProblem(words(error));
    }
  };
  return (
    <Box
      component='section'
      ref={box}
      aria-label='What went wrong'
      sx={{ mx: 2, mb: 2, p: 1.5, border: `1px solid ${token.hairline}`, bgcolor: token.plate }}
    >
      <Typography sx={{ fontWeight: 700, mb: 1.5 }}>{as_cut.name} came out otherwise</Typography>
      {problem && (
        <Typography role='alert' sx={{ color: token.fouls, mb: 1.5 }}>
          {problem}
        </Typography>
      )}
      <Box sx={{ display: 'grid', gridTemplateColumns: '1fr 1fr', gap: 1.5 }}>
        <PlainField label={`Longest line, ${unit}`} value={long} onChange={setLong} />
        <PlainField label='Face to B, °' value={saw} onChange={setSaw} />
        <Box sx={{ fontSize: 14, color: token.inkSoft, mt: -1 }}>{length(piece.longest, unit)} wanted</Box>
        <Box sx={{ fontSize: 14, color: token.inkSoft, mt: -1 }}>{degrees(size.saws[1])} wanted</Box>
        <Button
          variant='outlined'
          disabled={!long.trim() && !saw.trim()}
          onClick={() => void keep()}
          sx={{ gridColumn: left ? '1 / -1' : undefined }}
        >
          Keep it so
        </Button>
        {left && <PlainField label={`Left of the stick, ${unit}`} value={rest} onChange={setRest} />}
        <Button variant='outlined' onClick={() => void scrap()}>
          It is scrap
        </Button>
      </Box>
      {left && (
        <Typography variant='body2' sx={{ mt: 1, color: token.inkSoft }}>
          Scrap is sawn again from what there is: say what is left of the stick along its shortest line.
        </Typography>
      )}
      <Button sx={{ mt: 1, p: 0 }} onClick={onClose}>
        Nothing went wrong
      </Button>
    </Box>
  );
}
