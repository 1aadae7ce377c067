import { columnOf } from '../../measure/columnOf.ts';
import { createPointGrid } from '../pointGrid.ts';
import type { RidgePath } from './linkRidges.ts';
import { turnBetween } from './linkRidges.ts';
import type { LinePoints } from './heldRidges.ts';

/** A place on a line, in pixels of a plane. */
export type LinePoint = readonly [x: number, y: number];

/** Pieces of one line in their order: a scratch breaks off here and there, and is cut where another one crosses it. */
export interface JoinedPath {
  /** Numbers of ridge points. */
  readonly points: Int32Array;
  readonly sign: 1 | -1;
  /** Length of the gaps that were jumped, in pixels. */
  readonly gaps: number;
}

/** A gap of this length is jumped, in pixels; no longer than the shorter of the two pieces. */
const LONGEST_GAP = 16;
/** Ends that are joined turn by at most this on the way, radians. */
const MOST_TURN = 0.4;
/** The cosine of that, with room for what rounding takes. */
const LEAST_ALIKE = Math.cos(MOST_TURN) - 1e-9;
/** The direction of an end is taken over so many points. */
const END = 6;

/** An end of a piece: where it lies and which way it leaves the piece. Two of them belong to each, the first one first. */
interface End {
  readonly piece: number;
  /** Number of the ridge point. */
  readonly point: number;
  readonly x: number;
  readonly y: number;
  readonly heading: number;
  /** Cosine and sine of the heading. */
  readonly cos: number;
  readonly sin: number;
  readonly sign: 1 | -1;
  /** Length of its piece, in pixels. */
  readonly length: number;
}

/** Two ends that may go on in one another. */
interface Gap {
  readonly a: number;
  readonly b: number;
  readonly length: number;
  readonly turn: number;
}

function lengthOf(points: Int32Array, { x, y }: LinePoints): number {
  let length = 0;
  for (let i = 1; i < points.length; i++) {
    const dx = x[points[i]] - x[points[i - 1]];
    const dy = y[points[i]] - y[points[i - 1]];
    length += Math.sqrt(dx * dx + dy * dy);
  }
  return length;
}

/** An end of a piece. @param tip where it ends, `inner` a point before: places in its row of points */
function endOf(
  { points, sign }: RidgePath,
  piece: number,
  { x, y }: LinePoints,
  length: number,
  tip: number,
  inner: number,
): End {
  const point = points[tip];
  const dx = x[point] - x[points[inner]];
  const dy = y[point] - y[points[inner]];
  const away = Math.sqrt(dx * dx + dy * dy) || 1;
  return {
    piece,
    point,
    sign,
    length,
    x: x[point],
    y: y[point],
    heading: Math.atan2(dy, dx),
    cos: dx / away,
    sin: dy / away,
  };
}

/** Both ends of every piece, the first one first. */
function endsOf(paths: readonly RidgePath[], ridge: LinePoints): End[] {
  const ends: End[] = [];
  paths.forEach((path, piece) => {
    const length = lengthOf(path.points, ridge);
    const last = path.points.length - 1;
    ends.push(endOf(path, piece, ridge, length, 0, Math.min(last, END - 1)));
    ends.push(endOf(path, piece, ridge, length, last, Math.max(0, last + 1 - END)));
  });
  return ends;
}

const sizeOfTurn = (turn: number): number => Math.abs(Math.atan2(Math.sin(turn), Math.cos(turn)));

/** How much a line would turn at a gap, and how long it is; null where the two ends do not go on in one another. */
function gapBetween(from: End, to: End): { length: number; turn: number } | null {
  const dx = to.x - from.x;
  const dy = to.y - from.y;
  const length = Math.sqrt(dx * dx + dy * dy);
  if (length > LONGEST_GAP || length > Math.min(from.length, to.length)) return null;
  // Most ends near one another point elsewhere: that shows without an angle.
  if (Math.abs(from.cos * to.cos + from.sin * to.sin) < LEAST_ALIKE) return null;
  if (length > 2) {
    const least = LEAST_ALIKE * length;
    if (dx * from.cos + dy * from.sin < least || -dx * to.cos - dy * to.sin < least) return null;
  }
  const way = length > 2 ? Math.atan2(dy, dx) : from.heading;
  const turn = Math.max(
    sizeOfTurn(way - from.heading),
    sizeOfTurn(to.heading + Math.PI - way),
    turnBetween(from.heading, to.heading),
  );
  return turn <= MOST_TURN ? { length, turn } : null;
}

/** All gaps that may be jumped, the best first. */
function gapsOf(ends: readonly End[]): Gap[] {
  const x = columnOf(Float64Array, ends, (end) => end.x);
  const y = columnOf(Float64Array, ends, (end) => end.y);
  const places = createPointGrid(x, y, LONGEST_GAP);
  const gaps: Gap[] = [];
  ends.forEach((end, e) => {
    const count = places.near(end.x, end.y);
    for (let n = 0; n < count; n++) {
      const o = places.found[n];
      const other = ends[o];
      if (other.piece <= end.piece || other.sign !== end.sign) continue;
      const gap = gapBetween(end, other);
      if (gap) gaps.push({ a: e, b: o, length: gap.length, turn: gap.turn });
    }
  });
  return gaps.sort((g, h) => g.length + 10 * g.turn - h.length - 10 * h.turn);
}

/** One piece after the other, each turned round where an end asks for it. */
function joined(one: Int32Array, tipOfOne: number, two: Int32Array, tipOfTwo: number): Int32Array {
  const points = new Int32Array(one.length + two.length);
  points.set(one);
  points.set(two, one.length);
  if (one[one.length - 1] !== tipOfOne) points.subarray(0, one.length).reverse();
  if (two[0] !== tipOfTwo) points.subarray(one.length).reverse();
  return points;
}

/** Joins pieces whose ends go on in one another, the shortest gaps first. */
export function joinPaths(paths: readonly RidgePath[], ridge: LinePoints): JoinedPath[] {
  const pieces = paths.map(({ points, sign }): JoinedPath | null => ({ points, sign, gaps: 0 }));
  const ends = endsOf(paths, ridge);
  // Which piece a first one has become part of.
  const home = pieces.map((_, p) => p);
  const used = new Uint8Array(ends.length);
  const find = (p: number): number => (home[p] === p ? p : find(home[p]));
  for (const { a, b, length } of gapsOf(ends)) {
    if (used[a] === 1 || used[b] === 1) continue;
    const [ra, rb] = [find(ends[a].piece), find(ends[b].piece)];
    const [one, two] = [pieces[ra], pieces[rb]];
    if (ra === rb || !one || !two) continue;
    const points = joined(one.points, ends[a].point, two.points, ends[b].point);
    pieces[ra] = { points, gaps: one.gaps + two.gaps + length, sign: one.sign };
    pieces[rb] = null;
    home[rb] = ra;
    used[a] = 1;
    used[b] = 1;
  }
  return pieces.filter((piece) => piece !== null);
}
