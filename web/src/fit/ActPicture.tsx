import type { FitAct } from '../api/generated/schema';
import { token } from '../theme';

/** Radius of the tube's end as it is drawn. */
const R = 13;

/** What an act does: the tube from its side, and its end as it is seen from A, where a clock matters. */
export function ActPicture({ act }: { act: FitAct }) {
  return (
    <svg viewBox='0 0 84 34' width='84' height='34' aria-hidden='true' style={{ display: 'block' }}>
      <Side act={act} />
      <End act={act} />
    </svg>
  );
}

const line = { stroke: token.ink, strokeWidth: 1.2, fill: 'none' };
const cut = { stroke: token.fouls, strokeWidth: 2, fill: 'none' };

function Side({ act }: { act: FitAct }) {
  switch (act.act) {
    case 'trim': {
      const at = act.end === 'a' ? 12 : 36;
      const waste = act.end === 'a' ? [4, 12] : [36, 44];
      return (
        <>
          <rect x='4' y='8' width='40' height='18' {...line} />
          <rect x={waste[0]} y='8' width='8' height='18' fill={token.foulsPaper} stroke='none' />
          <path d={`M${at} 4V30`} {...cut} strokeDasharray='4 2' />
        </>
      );
    }
    case 'cut_otherwise':
    case 'renew':
      return (
        <>
          <rect
            x='4'
            y='8'
            width='40'
            height='18'
            {...line}
            strokeDasharray={act.act === 'renew' ? '3 2' : ''}
          />
          <path d={act.mm > 0 ? 'M30 17H48M44 13L48 17L44 21' : 'M46 17H28M32 13L28 17L32 21'} {...cut} />
        </>
      );
    case 'turn':
      return (
        <>
          <path d='M4 8H44V26H4Z M24 8V26' {...line} />
          <path d='M8 17H24' {...line} />
          <path d={act.degrees > 0 ? 'M24 13H42' : 'M24 21H42'} {...cut} />
        </>
      );
    case 'sand':
      return (
        <>
          <path d='M4 8H24V26H4Z M27 8H44V26H27Z' {...line} />
          <path d='M24 26L20 8H24Z' fill={token.fouls} stroke='none' />
        </>
      );
    default:
      return (
        <>
          <path d='M4 12H24V28H4Z' {...line} />
          <path d='M25 28L43 22L39 7L25 12Z' {...line} />
          <path d='M46 20A14 14 0 0 0 40 5M40 5L39 10M40 5L45 6' {...cut} />
        </>
      );
  }
}

/** The end seen from A, with where it is done or how far it is turned. */
function End({ act }: { act: FitAct }) {
  if (act.act === 'turn') {
    const by = Math.max(-60, Math.min(60, act.degrees * 4));
    return (
      <g transform='translate(67 17)'>
        <circle r={R} {...line} />
        <path d={`M0 ${-R + 5}V${-R - 3}`} {...line} />
        <path d={`M0 ${-R + 5}V${-R - 3}`} {...cut} transform={`rotate(${by})`} />
      </g>
    );
  }
  if (act.act !== 'sand' && act.act !== 'bend') return null;
  return (
    <g transform='translate(67 17)'>
      <circle r={R} {...line} />
      <path d={`M-5 ${-R}L0 ${-R + 8}L5 ${-R}Z`} fill={token.fouls} transform={`rotate(${act.clock})`} />
    </g>
  );
}
