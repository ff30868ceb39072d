import { Box, Button, ButtonBase } from '@mui/material';
import type { Edit, Offer } from '../api/generated/schema';
import { setting } from '../boxes/useComponent';
import { length, sentence, useBench } from '../kit/bench';
import type { Drawing } from '../kit/useDrawing';
import { token } from '../theme';

interface Props {
  offer: Offer;
  rank: number | undefined;
  taken: boolean;
  run: number;
  drawing: Drawing;
}

/** One way on offer: looking at it draws it in the bay, pressing takes it. */
export function OfferCard({ offer, rank, taken, run, drawing }: Props) {
  const unit = useBench((bench) => bench.unit);
  const { figures, turn, hose } = offer;
  const take: Edit = { step: 'route', edit: 'take_way', run, way: offer.way };
  const first: Edit[] = [
    ...(turn ? [setting(turn.component, turn.freedom, turn.turned)] : []),
    ...(hose ? [{ step: 'spec', edit: 'set_hose', run, hose } as const] : []),
  ];
  const edit: Edit = first.length > 0 ? { step: 'together', edits: [...first, take] } : take;
  const show = () => drawing.propose(edit);
  const short = offer.short.length > 0;
  return (
    <Box
      onMouseEnter={show}
      onMouseLeave={drawing.drop}
      sx={{
        bgcolor: token.sheet,
        border: taken ? `2px solid ${token.straw}` : `1px solid ${token.hairline}`,
        '&:hover': { borderColor: token.dye },
      }}
    >
      <ButtonBase
        aria-pressed={taken}
        onClick={() => drawing.keep(edit)}
        onFocus={show}
        onBlur={drawing.drop}
        sx={{
          width: '100%',
          display: 'grid',
          gridTemplateColumns: '54px 1fr auto',
          gap: 1,
          alignItems: 'center',
          textAlign: 'left',
          px: 1,
          py: 0.6,
        }}
      >
        <Sketch corners={offer.corners} />
        <Box sx={{ fontSize: 13.5, lineHeight: 1.3 }}>
          <strong>
            {rank !== undefined && `${rank} `}
            {offer.name}
          </strong>
          <br />
          {!short && sentence(offer.good, unit)}
          {offer.but && (
            <Box component='span' sx={{ display: 'block', color: short ? token.fouls : token.tightText }}>
              {short ? '■ ' : ''}
              {sentence(offer.but, unit)}
            </Box>
          )}
        </Box>
        <Box sx={{ fontSize: 13, color: token.inkSoft, textAlign: 'right', whiteSpace: 'nowrap' }}>
          {length(figures.length, unit)}
          <br />
          {figures.seams > 0 && (
            <>
              {figures.seams} seams
              <br />
            </>
          )}
          <span
            title={figures.labour.map((step) => `${step.what}: ${Math.round(step.minutes)} min`).join('\n')}
          >
            {figures.hours.toFixed(1)} h
          </span>
          {figures.loss_kpa != null && (
            <>
              <br />
              {figures.loss_kpa.toFixed(1)} kPa
            </>
          )}
        </Box>
      </ButtonBase>
      {taken && !short && (
        <Box sx={{ px: 1, pb: 0.75 }}>
          <Button
            variant='outlined'
            onClick={() => drawing.keep({ step: 'route', edit: 'keep_way', run, name: offer.name })}
          >
            Keep it beside
          </Button>
        </Box>
      )}
    </Box>
  );
}

/** The way's corners seen from the side it is widest from. */
export function Sketch({ corners }: { corners: readonly number[][] }) {
  const spread = (axis: number) => {
    const along = corners.map((corner) => corner[axis] ?? 0);
    return Math.max(...along) - Math.min(...along);
  };
  const [across = 0, up = 2] = [0, 1, 2].toSorted((p, q) => spread(q) - spread(p));
  const scale = Math.min(48 / Math.max(spread(across), 1), 50 / Math.max(spread(up), 1));
  const least = (axis: number) => Math.min(...corners.map((corner) => corner[axis] ?? 0));
  const [left, low] = [least(across), least(up)];
  const [aside, above] = [(54 - spread(across) * scale) / 2, (56 - spread(up) * scale) / 2];
  const points = corners.map((corner) => {
    const [x, y] = [(corner[across] ?? 0) - left, (corner[up] ?? 0) - low];
    return `${aside + x * scale},${56 - above - y * scale}`;
  });
  return (
    <svg width={54} height={56} aria-hidden='true'>
      <polyline
        points={points.join(' ')}
        fill='none'
        stroke={token.dye}
        strokeWidth={4}
        strokeLinejoin='round'
      />
    </svg>
  );
}
