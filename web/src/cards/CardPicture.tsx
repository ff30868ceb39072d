import { Box } from '@mui/material';
import type { CardPicture as Picture } from '../api/generated/schema';
import { figure, type Unit } from '../kit/bench';
import { headingFont, token } from '../theme';

const [WIDE, HIGH] = [390, 196];

/** Just this act, drawn as on a dyed plate. */
export function CardPicture({ picture, unit }: { picture: Picture; unit: Unit }) {
  if (picture.shows === 'nothing') return <Box sx={{ bgcolor: token.dye, height: 12, flexShrink: 0 }} />;
  return (
    <Box
      component='svg'
      viewBox={`0 0 ${WIDE} ${HIGH}`}
      aria-hidden
      sx={{ bgcolor: token.dye, width: '100%', maxHeight: '32vh', flexShrink: 0, display: 'block' }}
    >
      {picture.shows === 'cut' && <Cut picture={picture} unit={unit} />}
      {picture.shows === 'lines' && <Lines lines={picture.lines} />}
      {picture.shows === 'meeting' && <Meeting stands={picture.stands} lines={picture.lines} />}
    </Box>
  );
}

const text = (size: number, fill: string) => ({
  fontFamily: headingFont,
  fontWeight: 600,
  fontSize: size,
  fill,
});

/** The stick from its side, the line that faces up on top, the blade beyond the mark. */
function Cut({ picture, unit }: { picture: Extract<Picture, { shows: 'cut' }>; unit: Unit }) {
  const { line, up, down, od } = picture;
  const [top, bottom] = [64, 152];
  const perMm = (bottom - top) / od;
  const lean = (down.mm - up.mm) * perMm;
  const at = 215 - lean / 2;
  return (
    <>
      <polygon
        points={`0,${top} ${at},${top} ${at + lean},${bottom} 0,${bottom}`}
        fill={token.metal}
        stroke='none'
      />
      <polygon
        points={`${at + 8},${top} ${WIDE},${top} ${WIDE},${bottom} ${at + lean + 8},${bottom}`}
        fill={token.noteEdge}
        stroke='none'
      />
      {line && (
        <line x1={0} x2={WIDE} y1={top} y2={top} stroke={token.sheet} strokeWidth={2} strokeDasharray='9 6' />
      )}
      <line x1={at} y1={top} x2={at + lean} y2={bottom} stroke={token.straw} strokeWidth={4} />
      <line x1={at} y1={top - 22} x2={at} y2={top} stroke={token.straw} strokeWidth={2} />
      <text x={at - 8} y={top - 10} textAnchor='end' style={text(22, token.straw)}>
        {figure(up, unit)}
      </text>
      <text x={12} y={top - 10} style={text(20, token.sheet)}>
        {line ? `line ${line} up` : 'square'}
      </text>
      {line && (
        <text x={at + lean + 8} y={bottom + 24} style={text(20, token.scribe)}>
          {figure(down, unit)} underneath
        </text>
      )}
      <text x={12} y={HIGH - 10} style={{ fontSize: 14, fill: token.scribe }}>
        squared end
      </text>
    </>
  );
}

/** The squared end as one looks at it, each line where it is round the girth. */
function Lines({ lines }: { lines: [string, number][] }) {
  const [x, y, r] = [WIDE / 2, HIGH / 2, 62];
  return (
    <>
      <circle cx={x} cy={y} r={r} fill='none' stroke={token.metal} strokeWidth={7} />
      {lines.map(([name, degrees]) => {
        const turn = (degrees * Math.PI) / 180;
        const [sin, cos] = [Math.sin(turn), Math.cos(turn)];
        return (
          <g key={name}>
            <line
              x1={x + (r - 12) * sin}
              y1={y - (r - 12) * cos}
              x2={x + (r + 8) * sin}
              y2={y - (r + 8) * cos}
              stroke={token.straw}
              strokeWidth={3}
            />
            <text
              x={x + (r + 22) * sin}
              y={y - (r + 22) * cos + 6}
              textAnchor='middle'
              style={text(18, token.sheet)}
            >
              {name}
            </text>
          </g>
        );
      })}
      <text x={12} y={24} style={{ fontSize: 14, fill: token.scribe }}>
        looking at the
      </text>
      <text x={12} y={41} style={{ fontSize: 14, fill: token.scribe }}>
        squared end
      </text>
    </>
  );
}

/** The pipe as one looks along it from A: where the line stands on which both pieces meet. */
function Meeting({ stands, lines }: { stands: number; lines: string[] }) {
  const [x, y, r] = [WIDE / 2, HIGH / 2, 62];
  const turn = (stands * Math.PI) / 180;
  const [sin, cos] = [Math.sin(turn), Math.cos(turn)];
  return (
    <>
      <circle cx={x} cy={y} r={r} fill={token.dyeDeep} stroke={token.metal} strokeWidth={7} />
      <line x1={x} y1={y - r - 14} x2={x} y2={y - r + 10} stroke={token.scribe} strokeWidth={2} />
      <text x={x + 6} y={y - r - 8} style={{ fontSize: 14, fill: token.scribe }}>
        up
      </text>
      <line x1={x} y1={y} x2={x + r * sin} y2={y - r * cos} stroke={token.straw} strokeWidth={4} />
      <circle cx={x + r * sin} cy={y - r * cos} r={8} fill={token.straw} />
      <text x={12} y={24} style={{ fontSize: 14, fill: token.scribe }}>
        looking along
      </text>
      <text x={12} y={41} style={{ fontSize: 14, fill: token.scribe }}>
        the pipe from A
      </text>
      <text x={12} y={HIGH - 14} style={text(20, token.sheet)}>
        {lines[0]} on {lines[1]}
      </text>
    </>
  );
}
