import { Vector3 } from 'three';
import type { KeepOutWorkup } from '../api/generated/schema';
import type { Pen } from './Pen';
import { across, boxPlace, drumOf, normalOf, planePlace } from './placing';

type Part = Pick<KeepOutWorkup, 'shape' | 'kind'>;
type Of<S extends KeepOutWorkup['shape']['shape']> = Extract<KeepOutWorkup['shape'], { shape: S }>;

/** Between the hatch lines of a sheet, mm. */
const SHEET = 28;
/** Between two bands on a hose, mm. */
const BANDS = 55;
/** Between the teeth of a belt, mm. */
const TEETH = 14;
/** How far the strokes of what is hot stand out, mm. */
const HEAT = 9;

/** What shows the kind of a thing, as a drawing would: by line and hatch, never by a colour of its own. */
export function hatch(pen: Pen, { shape, kind }: Part) {
  switch (kind) {
    case 'belt_or_pulley':
      if (shape.shape === 'cylinder') return pulley(pen, shape);
      if (shape.shape === 'box') return belt(pen, shape);
      return;
    case 'hose_or_wire':
      if (shape.shape === 'line') return bands(pen, shape);
      return;
    case 'hot':
    case 'shielded':
      return heat(pen, shape);
    case 'live_terminal':
      return bolt(pen, shape);
    case 'bonnet':
      if (shape.shape === 'plane') return ribs(pen, shape);
      return;
    case 'ground':
      if (shape.shape === 'plane') return earth(pen, shape);
      return;
    case 'still_metal':
      if (shape.shape === 'sheet') return section(pen, shape);
      return;
    case 'sweep':
      return;
  }
}

/** A rim, a hub and grooves. */
function pulley(pen: Pen, shape: Of<'cylinder'>) {
  const { start, end, u, v } = drumOf(shape);
  const radius = shape.diameter / 2;
  for (const face of [start, end]) {
    pen.circle(face, u, v, radius * 0.82);
    pen.circle(face, u, v, radius * 0.26);
  }
  for (const share of [1 / 3, 2 / 3]) pen.circle(start.clone().lerp(end, share), u, v, radius);
}

/** Teeth along the two long sides. */
function belt(pen: Pen, shape: Of<'box'>) {
  const place = boxPlace(shape);
  const order = [0, 1, 2].sort((p, q) => (shape.size[q] ?? 0) - (shape.size[p] ?? 0));
  const [long, wide, thin] = order as [number, number, number];
  const half = (axis: number) => (shape.size[axis] ?? 0) / 2;
  const at = (l: number, w: number, t: number) => {
    const own = [0, 0, 0];
    own[long] = l;
    own[wide] = w;
    own[thin] = t;
    return new Vector3(...own).applyMatrix4(place);
  };
  const deep = Math.min(10, half(wide));
  for (const face of [-half(thin), half(thin)]) {
    for (let l = -half(long) + TEETH; l < half(long); l += TEETH) {
      pen.line(at(l, half(wide), face), at(l, half(wide) - deep, face));
      pen.line(at(l, -half(wide), face), at(l, -half(wide) + deep, face));
    }
  }
}

/** Bands round a hose, ticks across a wire. */
function bands(pen: Pen, shape: Of<'line'>) {
  const radius = Math.max(shape.diameter / 2, 3);
  eachStep(shape.points, BANDS, (at, u, v) => {
    if (shape.diameter < 14) {
      pen.line(at.clone().addScaledVector(u, -radius), at.clone().addScaledVector(u, radius));
    } else {
      pen.circle(at, u, v, radius);
    }
  });
}

/** Strokes that stand out all round. */
function heat(pen: Pen, shape: KeepOutWorkup['shape']) {
  if (shape.shape === 'cylinder') {
    const { start, end, u, v } = drumOf(shape);
    for (const face of [start, end]) pen.rays(face, u, v, shape.diameter / 2, HEAT, 20);
  } else if (shape.shape === 'line') {
    eachStep(shape.points, BANDS, (at, u, v) => pen.rays(at, u, v, shape.diameter / 2, HEAT, 10));
  } else if (shape.shape === 'sphere') {
    const centre = new Vector3(...shape.centre);
    pen.rays(centre, new Vector3(1, 0, 0), new Vector3(0, 1, 0), shape.diameter / 2, HEAT, 20);
  } else if (shape.shape === 'box') {
    const place = boxPlace(shape);
    for (const x of [-1, 1])
      for (const y of [-1, 1])
        for (const z of [-1, 1]) {
          const corner = new Vector3(x * shape.size[0], y * shape.size[1], z * shape.size[2]).divideScalar(2);
          const out = new Vector3(x, y, z).setLength(HEAT * 1.6).add(corner);
          pen.line(corner.applyMatrix4(place), out.applyMatrix4(place));
        }
  }
}

/** A jagged stroke over what is live. */
function bolt(pen: Pen, shape: KeepOutWorkup['shape']) {
  const sized =
    shape.shape === 'box'
      ? { top: new Vector3(0, 0, shape.size[2] / 2).applyMatrix4(boxPlace(shape)), size: shape.size[2] / 3 }
      : shape.shape === 'sphere'
        ? {
            top: new Vector3(...shape.centre).add(new Vector3(0, 0, shape.diameter / 2)),
            size: shape.diameter / 2,
          }
        : undefined;
  if (!sized) return;
  const size = Math.max(14, Math.min(sized.size, 40));
  const zigzag = [
    [0.4, 2],
    [-0.35, 1.05],
    [0.25, 1.05],
    [-0.3, 0.1],
  ].map(([y = 0, z = 0]) => sized.top.clone().add(new Vector3(0, y * size, z * size)));
  pen.path(zigzag);
}

/** The pressed ribs of a bonnet. */
function ribs(pen: Pen, shape: Of<'plane'>) {
  const place = planePlace(shape);
  const at = (x: number, y: number) =>
    new Vector3((x * shape.size[0]) / 2, (y * shape.size[1]) / 2, 0).applyMatrix4(place);
  pen.path([at(-0.82, -0.82), at(0.82, -0.82), at(0.82, 0.82), at(-0.82, 0.82)], true);
  pen.line(at(-0.82, -0.82), at(0.82, 0.82));
  pen.line(at(-0.82, 0.82), at(0.82, -0.82));
}

/** Slanting strokes under the edges, as ground is drawn. */
function earth(pen: Pen, shape: Of<'plane'>) {
  const place = planePlace(shape);
  const [x, y] = [shape.size[0] / 2, shape.size[1] / 2];
  const stroke = Math.min(x, y) / 14;
  const at = (p: number, q: number) => new Vector3(p, q, 0).applyMatrix4(place);
  for (let p = -x; p <= x; p += 2 * stroke) {
    pen.line(at(p, -y), at(p - stroke, -y - stroke));
    pen.line(at(p, y), at(p - stroke, y + stroke));
  }
}

/** Slanting lines over a sheet, as cut metal is drawn. */
function section(pen: Pen, shape: Of<'sheet'>) {
  const points = shape.corners.map((corner) => new Vector3(...corner));
  const [origin] = points;
  if (!origin || points.length < 3) return;
  const [u, v] = across(normalOf(points));
  const slant = u.clone().add(v).normalize();
  const aside = u.clone().sub(v).normalize();
  const flat = points.map((point) => {
    const from = point.clone().sub(origin);
    return [from.dot(aside), from.dot(slant)] as const;
  });
  const offsets = flat.map(([a]) => a);
  const [least, most] = [Math.min(...offsets), Math.max(...offsets)];
  for (let offset = least + SHEET / 2; offset < most; offset += SHEET) {
    const met = flat.flatMap(([a, s], index) => {
      const [b, t] = flat[(index + 1) % flat.length] ?? [a, s];
      if (a <= offset === b <= offset) return [];
      return [s + ((offset - a) / (b - a)) * (t - s)];
    });
    met.sort((p, q) => p - q);
    for (let k = 0; k + 1 < met.length; k += 2) {
      const place = (along: number) =>
        origin.clone().addScaledVector(aside, offset).addScaledVector(slant, along);
      pen.line(place(met[k] ?? 0), place(met[k + 1] ?? 0));
    }
  }
}

/** Calls with places along a path, evenly, and two directions across it there. */
function eachStep(
  points: readonly [number, number, number][],
  step: number,
  tell: (at: Vector3, u: Vector3, v: Vector3) => void,
) {
  let left = step / 2;
  for (let k = 1; k < points.length; k += 1) {
    const [from, to] = [points[k - 1], points[k]];
    if (!from || !to) continue;
    const { start, end, axis, u, v } = drumOf({ from, to });
    const length = start.distanceTo(end);
    while (left < length) {
      tell(start.clone().addScaledVector(axis, left), u, v);
      left += step;
    }
    left -= length;
  }
}
