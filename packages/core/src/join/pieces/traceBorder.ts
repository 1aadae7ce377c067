import type { FloatPlane } from '../../raster/float.ts';
import type { Point } from '../../target/target.ts';
import type { Course } from './course.ts';
import { normalsOf, resampleRing, smoothRing } from './course.ts';

/** How far from a coarse border the true one is looked for, outwards and inwards, in coarse pixels. */
const OUTWARDS = 2;
const INWARDS = 5;
/** Steps along a profile, a pixel. */
const FINE = 2;
/** Standard deviation of the Gaussian that edges are looked for with, in pixels: narrow fibre has two of them close together. */
const SHARP = 0.65;
/** An edge as steep as this share of the steepest is the paper's, if it is the outermost. */
const STEEP = 0.25;
/** A soft shadow is less steep than this; what is steeper is an edge, however steep the one behind it is. */
const NO_SHADOW = 0.12;
/** Below this difference from one side to the other, in encoded values of 0 to 1, there is no edge to see. */
const FAINT = 0.015;
/** White fibre: its usual tone, at least so bright and at most so colourful, in encoded values. */
const FIBRE = { tone: 0.88, bright: 0.66, colourful: 0.16 };
/** Fibre is at most so wide, in pixels; what is white farther in is the picture or its margin. */
const WIDEST_FIBRE = 24;
/** Fibre narrower than this is measured by its light, in pixels; below the second it is taken for none. */
const NARROW = 4;
const SEEN_WIDTH = 0.25;
/** Where the picture is so near to the tone of fibre, in encoded values, its width is not known. */
const LEAST_CONTRAST = 0.15;
/** So far outside of the paper's border profiles begin, in pixels. */
const BEFORE = 2;

/** What the border of a piece is at a point. */
export interface PieceBorder {
  /** Where its paper ends, in pixels of the scan, about a pixel from point to point. */
  readonly paper: readonly Point[];
  /** Where its picture ends: the same where no fibre shows. */
  readonly picture: readonly Point[];
  /** False where white goes on so far that the picture's end cannot be told from white fibre. */
  readonly isKnown: readonly boolean[];
}

type Channels = readonly FloatPlane[];

/** A value between pixels, bilinear; beyond the border the nearest one. */
function valueAt({ width, height, data }: FloatPlane, x: number, y: number): number {
  const u = Math.max(0, Math.min(width - 1.001, x - 0.5));
  const v = Math.max(0, Math.min(height - 1.001, y - 0.5));
  const [ix, iy] = [Math.floor(u), Math.floor(v)];
  const [fx, fy] = [u - ix, v - iy];
  const at = iy * width + ix;
  const below = iy + 1 < height ? at + width : at;
  const right = ix + 1 < width ? 1 : 0;
  const upper = data[at] + fx * (data[at + right] - data[at]);
  const lower = data[below] + fx * (data[below + right] - data[below]);
  return upper + fy * (lower - upper);
}

/** How steeply a profile changes at each of its steps: a derivative of a Gaussian, over all channels. */
function steepness(profiles: readonly Float64Array[]): Float64Array {
  const reach = 2 * FINE;
  const count = profiles[0].length;
  const steep = new Float64Array(count);
  for (let k = reach; k < count - reach; k++) {
    let sum = 0;
    for (const profile of profiles) {
      let slope = 0;
      for (let j = 1; j <= reach; j++)
        slope += (j / FINE) * Math.exp(-((j / FINE / SHARP) ** 2) / 2) * (profile[k + j] - profile[k - j]);
      sum += slope * slope;
    }
    steep[k] = Math.sqrt(sum);
  }
  return steep;
}

/** Where between steps a peak lies: the top of the parabola through three of them. */
function peakNear(values: Float64Array, k: number): number {
  const [a, b, c] = [values[k - 1], values[k], values[k + 1]];
  const bend = a - 2 * b + c;
  return bend < 0 ? k + Math.max(-0.5, Math.min(0.5, (0.5 * (a - c)) / bend)) : k;
}

/** Profiles of all channels along a normal, from `from` to `to` pixels outwards. */
function profilesAlong(
  channels: Channels,
  [x, y]: Point,
  [nx, ny]: Point,
  from: number,
  to: number,
): Float64Array[] {
  const count = Math.round((to - from) * FINE) + 1;
  return channels.map((plane) =>
    Float64Array.from({ length: count }, (_, k) => {
      const t = from + k / FINE;
      return valueAt(plane, x + t * nx, y + t * ny);
    }),
  );
}

/** How far outwards the paper's edge lies from a point of a coarse border, in pixels; null where none is seen. */
function edgeOffset(channels: Channels, point: Point, normal: Point, scale: number): number | null {
  const [from, to] = [-INWARDS * scale - 2, OUTWARDS * scale + 2];
  const steep = steepness(profilesAlong(channels, point, normal, from, to));
  const isPeak = (k: number): boolean => steep[k] >= steep[k - 1] && steep[k] >= steep[k + 1];
  const most = Math.max(...steep);
  if (most < FAINT) return null;
  for (let k = steep.length - 2; k > 0; k--)
    if (isPeak(k) && steep[k] >= Math.max(STEEP * most, NO_SHADOW)) return from + peakNear(steep, k) / FINE;
  return null;
}

/** Offsets with those that stray from their neighbours, or are none, put between them. */
function evened(offsets: readonly (number | null)[], usual: number): number[] {
  const count = offsets.length;
  return offsets.map((offset, i) => {
    const around: number[] = [];
    for (let k = -4; k <= 4; k++) {
      const one = offsets[(i + k + count) % count];
      if (one !== null) around.push(one);
    }
    if (around.length === 0) return usual;
    const middle = around.sort((a, b) => a - b)[around.length >> 1];
    return offset !== null && Math.abs(offset - middle) <= 1.5 ? offset : middle;
  });
}

/** White without an end so far along a profile that starts {@link BEFORE} pixels outside; 0 where none begins. */
function whiteRun(profiles: readonly Float64Array[]): number {
  const isWhite = (k: number): boolean => {
    const values = profiles.map((profile) => profile[k]);
    const [low, high] = [Math.min(...values), Math.max(...values)];
    return (low + high) / 2 >= FIBRE.bright && high - low <= FIBRE.colourful;
  };
  const first = (BEFORE + 1) * FINE;
  let end = first;
  while (end < profiles[0].length && isWhite(end)) end++;
  return end === first ? 0 : end;
}

/** The mean of a profile from one place to another, in pixels from the paper's border inwards (trapezoidal rule). */
function meanFrom(profile: Float64Array, from: number, to: number): number {
  const [first, last] = [(BEFORE + from) * FINE, (BEFORE + to) * FINE];
  let sum = (profile[first] + profile[last]) / 2;
  for (let k = first + 1; k < last; k++) sum += profile[k];
  return sum / (last - first);
}

/**
 * How wide fibre is that is narrower than it can be seen by itself: the light that lies along the profile beyond what the
 * ground and the picture give, in widths of fibre. Null where the picture is about as bright as fibre.
 */
function narrowWidth(profiles: readonly Float64Array[]): number | null {
  let [excess, contrast] = [0, 0];
  for (const profile of profiles) {
    const ground = meanFrom(profile, -BEFORE, -BEFORE + 1);
    const picture = meanFrom(profile, NARROW, NARROW + 2);
    const all = meanFrom(profile, -BEFORE, NARROW) * (BEFORE + NARROW);
    const step = FIBRE.tone - picture;
    excess += step * (all - BEFORE * ground - NARROW * picture);
    contrast += step * step;
  }
  if (contrast < profiles.length * LEAST_CONTRAST ** 2) return null;
  const width = excess / contrast;
  return width < SEEN_WIDTH ? 0 : Math.min(NARROW, width);
}

/** How wide white fibre is at a point of the paper's border, in pixels; null where it cannot be told from the picture. */
function fibreWidth(channels: Channels, point: Point, normal: Point): number | null {
  const inwards: Point = [-normal[0], -normal[1]];
  const profiles = profilesAlong(channels, point, inwards, -BEFORE, WIDEST_FIBRE + 4);
  const end = whiteRun(profiles);
  if (end < (BEFORE + NARROW) * FINE) return narrowWidth(profiles);
  if (end >= (WIDEST_FIBRE + BEFORE) * FINE) return null;
  const steep = steepness(profiles);
  let best = end;
  for (let k = Math.max(1, end - 2 * FINE); k <= Math.min(steep.length - 2, end + FINE); k++)
    if (steep[k] > steep[best]) best = k;
  return Math.max(0, peakNear(steep, Math.min(steep.length - 2, Math.max(1, best))) / FINE - BEFORE);
}

/**
 * Traces the border of a piece to a tenth of a pixel: across a coarse border the outermost steep edge is where its paper ends;
 * from there inwards white fibre ends where its picture begins.
 *
 * @param channels of the scan, encoded values of 0 to 1
 * @param coarse its border on a smaller scan, `scale` times as small
 */
export function traceBorder(channels: Channels, coarse: readonly Point[], scale: number): PieceBorder {
  const ring = smoothRing(
    resampleRing(
      coarse.map(([x, y]): Point => [scale * x, scale * y]),
      1.5,
    ),
    1 + 0.7 * scale,
  );
  const normals = normalsOf(ring, 3);
  // The coarse border lies outside of the paper's by as much as fine detail was looked for around a pixel.
  const offsets = evened(
    ring.map((point, i) => edgeOffset(channels, point, normals[i], scale)),
    -1.5 * scale,
  );
  const along = (course: Course, by: readonly number[]): Point[] =>
    course.points.map(([x, y], i): Point => [
      x + by[i] * course.normals[i][0],
      y + by[i] * course.normals[i][1],
    ]);
  const paper = smoothRing(along({ points: ring, normals }, offsets), 0.8);
  const outwards = normalsOf(paper, 3);
  const widths = paper.map((point, i) => fibreWidth(channels, point, outwards[i]));
  const depths = evened(widths, 0);
  const picture = along(
    { points: paper, normals: outwards },
    depths.map((depth) => -depth),
  );
  return { paper, picture, isKnown: widths.map((width) => width !== null) };
}
