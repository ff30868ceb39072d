import type { Anchor, Axis, BayWorkup, Field, PortRef, RimSide, Spot, Taken } from '../api/generated/schema';

/** A reading as a builder would name it. */
export type ReadingKind =
  | 'tape'
  | 'up'
  | 'forward'
  | 'left'
  | 'heading'
  | 'pitch'
  | 'caliper'
  | 'girth'
  | 'bore'
  | 'angle'
  | 'square'
  | 'same'
  | 'opposite'
  | 'mirror';

export const readingNames: Record<ReadingKind, string> = {
  tape: 'Tape from',
  up: 'Level, up from',
  forward: 'Plumb, forward of',
  left: 'Plumb, left of',
  heading: 'Gauge heading',
  pitch: 'Gauge pitch',
  caliper: 'Caliper across',
  girth: 'Girth round',
  bore: 'Bore inside',
  angle: 'Angle to',
  square: 'Square to',
  same: 'Same way as',
  opposite: 'Opposite to',
  mirror: 'Mirror image of',
};

const axes: Partial<Record<ReadingKind, Axis>> = { forward: 'x', left: 'y', up: 'z' };

/** What a reading starts from or is held against, as an option of a drop-down. */
export interface FromOption {
  key: string;
  name: string;
}

/** A mouth as an option: its run and end, and for a tape which point of its rim. */
const portKey = (port: PortRef, rim?: RimSide | null) =>
  rim ? `port ${port.run} ${port.end} ${rim}` : `port ${port.run} ${port.end}`;

function readPort(key: string): PortRef {
  const [, run, end] = key.split(' ');
  return { run: Number(run), end: end === 'b' ? 'b' : 'a' };
}

/** What a kind of reading can start from. `except` is the thing itself. */
export function fromOptions(kind: ReadingKind, bay: BayWorkup, except: string): FromOption[] {
  const ports = bay.ports
    .map((port) => ({ key: portKey(port.port), name: `${port.name} (${port.run_name})` }))
    .filter((option) => option.key !== except);
  const datums = bay.datums
    .map((datum) => ({ key: `datum ${datum.datum}`, name: datum.name }))
    .filter((option) => option.key !== except);
  switch (kind) {
    case 'tape':
      return [...datums, { key: 'zero', name: "vehicle's zero" }, ...ports];
    case 'up':
    case 'forward':
    case 'left':
      return [{ key: 'zero', name: "vehicle's zero" }, ...datums, ...ports];
    case 'square':
    case 'same':
    case 'opposite':
      return [
        { key: 'axis x', name: 'forward axis' },
        { key: 'axis y', name: 'left axis' },
        { key: 'axis z', name: 'up axis' },
        ...ports,
      ];
    case 'mirror':
    case 'angle':
      return ports;
    default:
      return [];
  }
}

/** Whether a kind has a figure to type. */
export function hasFigure(kind: ReadingKind): boolean {
  return !['square', 'same', 'opposite', 'mirror'].includes(kind);
}

export function isAngle(kind: ReadingKind): boolean {
  return kind === 'heading' || kind === 'pitch' || kind === 'angle';
}

/** The instrument field that a kind's figure can come from. */
export function fieldOf(kind: ReadingKind): Field | undefined {
  if (axes[kind]) return 'offset';
  if (kind === 'bore') return 'caliper';
  return kind === 'tape' || kind === 'heading' || kind === 'pitch' || kind === 'caliper' || kind === 'girth'
    ? kind
    : undefined;
}

function anchor(key: string): Anchor {
  if (key.startsWith('datum ')) return { from: 'datum', datum: Number(key.slice(6)) };
  if (key.startsWith('port ')) {
    const rim = rimOf(key);
    return rim ? { from: 'port', port: readPort(key), rim } : { from: 'port', port: readPort(key) };
  }
  return { from: 'zero' };
}

/** The point of a rim that a tape is said to start from. */
export function rimOf(key: string): RimSide | undefined {
  const side = key.split(' ')[3];
  return side === 'near' || side === 'far' ? side : undefined;
}

/** The same start at another point of the mouth. */
export function withRim(key: string, rim: RimSide | undefined): string {
  return key.startsWith('port ') ? portKey(readPort(key), rim) : key;
}

/** The reading that was said; `wall` is that of a mouth whose bore was read. */
export function taken(kind: ReadingKind, from: string, to: Spot, value: number, wall = 2): Taken {
  const axis = axes[kind];
  if (axis) return { by: 'offset', from: anchor(from), to, axis, mm: value };
  switch (kind) {
    case 'heading':
    case 'pitch':
      return { by: kind, degrees: value };
    case 'caliper':
    case 'girth':
      return { by: kind, mm: value };
    case 'bore':
      return { by: 'bore', mm: value, wall };
    case 'angle':
      return { by: 'between', port: readPort(from), degrees: value };
    case 'mirror':
      return { by: 'mirror', of: readPort(from) };
    case 'square':
      return { by: 'square', to: against(from) };
    case 'same':
    case 'opposite':
      return { by: 'parallel', to: against(from), opposite: kind === 'opposite' };
    default:
      return { by: 'tape', from: anchor(from), to, mm: value };
  }
}

function against(key: string): Extract<Taken, { by: 'square' }>['to'] {
  if (key.startsWith('axis ')) return { against: 'axis', axis: key.slice(5) as Axis };
  return { against: 'port', port: readPort(key) };
}

/** A reading as the fields that would say it; the inverse of [`taken`]. */
export function asFields(said: Taken): { kind: ReadingKind; from: string; to: Spot } {
  const centre: Spot = { spot: 'centre' };
  switch (said.by) {
    case 'tape':
      return { kind: 'tape', from: keyOf(said.from), to: said.to ?? centre };
    case 'offset': {
      const kind = said.axis === 'x' ? 'forward' : said.axis === 'y' ? 'left' : 'up';
      return { kind, from: keyOf(said.from), to: said.to ?? centre };
    }
    case 'square':
      return { kind: 'square', from: keyOfAgainst(said.to), to: centre };
    case 'parallel':
      return { kind: said.opposite ? 'opposite' : 'same', from: keyOfAgainst(said.to), to: centre };
    case 'mirror':
      return { kind: 'mirror', from: portKey(said.of), to: centre };
    case 'between':
      return { kind: 'angle', from: portKey(said.port), to: centre };
    default:
      return { kind: said.by, from: '', to: centre };
  }
}

function keyOf(from: Anchor): string {
  if (from.from === 'datum') return `datum ${from.datum}`;
  return from.from === 'port' ? portKey(from.port, from.rim) : 'zero';
}

function keyOfAgainst(to: Extract<Taken, { by: 'square' }>['to']): string {
  return to.against === 'axis' ? `axis ${to.axis}` : portKey(to.port);
}

/** The same reading with another figure. */
export function withFigure(said: Taken, value: number): Taken {
  if ('mm' in said) return { ...said, mm: value };
  return 'degrees' in said ? { ...said, degrees: value } : said;
}
