import { createPlaceGrid } from '../placeGrid.ts';
import type { RidgePath } from './linkRidges.ts';
import { turnBetween } from './linkRidges.ts';
import type { RidgePoints } from './ridgePoints.ts';

/** A place on a line, in pixels of a plane. */
export type LinePoint = readonly [x: number, y: number];

/** Pieces of one line in their order: a scratch breaks off here and there, and is cut where another one crosses it. */
export interface JoinedPath {
  readonly points: readonly LinePoint[];
  readonly sign: 1 | -1;
  /** Length of the gaps that were jumped, in pixels. */
  readonly gaps: number;
}

/** A gap of this length is jumped, in pixels; no longer than the shorter of the two pieces. */
const LONGEST_GAP = 16;
/** Ends that are joined turn by at most this on the way, radians. */
const MOST_TURN = 0.4;
/** The direction of an end is taken over so many points. */
const END = 6;

interface Piece {
  points: LinePoint[];
  gaps: number;
  readonly sign: 1 | -1;
}

interface End {
  readonly piece: number;
  readonly isLast: boolean;
}

const lengthOf = (points: readonly LinePoint[]): number => {
  let length = 0;
  for (let i = 1; i < points.length; i++)
    length += Math.hypot(points[i][0] - points[i - 1][0], points[i][1] - points[i - 1][1]);
  return length;
};

/** Where an end lies and which way it leaves the piece. */
function endOf({ points }: Piece, isLast: boolean): { x: number; y: number; heading: number } {
  const tip = isLast ? points[points.length - 1] : points[0];
  const inner = isLast
    ? points[Math.max(0, points.length - END)]
    : points[Math.min(points.length - 1, END - 1)];
  return { x: tip[0], y: tip[1], heading: Math.atan2(tip[1] - inner[1], tip[0] - inner[0]) };
}

/** How much a line would turn at a gap, and how long it is; null where the two ends do not go on in one another. */
function gapBetween(
  a: Piece,
  aLast: boolean,
  b: Piece,
  bLast: boolean,
): { length: number; turn: number } | null {
  const [from, to] = [endOf(a, aLast), endOf(b, bLast)];
  const length = Math.hypot(to.x - from.x, to.y - from.y);
  if (length > LONGEST_GAP || length > Math.min(lengthOf(a.points), lengthOf(b.points))) return null;
  const way = length > 2 ? Math.atan2(to.y - from.y, to.x - from.x) : from.heading;
  const bends = [way - from.heading, to.heading + Math.PI - way].map((bend) =>
    Math.abs(Math.atan2(Math.sin(bend), Math.cos(bend))),
  );
  const turn = Math.max(...bends, turnBetween(from.heading, to.heading));
  return turn <= MOST_TURN ? { length, turn } : null;
}

/** Joins pieces whose ends go on in one another, the shortest gaps first. */
export function joinPaths(paths: readonly RidgePath[], { x, y }: RidgePoints): JoinedPath[] {
  const pieces: (Piece | null)[] = paths.map(({ points, sign }) => ({
    points: Array.from(points, (k): LinePoint => [x[k], y[k]]),
    gaps: 0,
    sign,
  }));
  const ends = createPlaceGrid<End>(LONGEST_GAP);
  pieces.forEach((piece, p) => {
    if (!piece) return;
    for (const isLast of [false, true]) {
      const { x: ex, y: ey } = endOf(piece, isLast);
      ends.add(ex, ey, { piece: p, isLast });
    }
  });
  const gaps: { a: End; b: End; length: number; turn: number }[] = [];
  pieces.forEach((piece, p) => {
    if (!piece) return;
    for (const isLast of [false, true]) {
      const { x: ex, y: ey } = endOf(piece, isLast);
      for (const other of ends.near(ex, ey)) {
        const there = pieces[other.piece];
        if (other.piece <= p || !there || there.sign !== piece.sign) continue;
        const gap = gapBetween(piece, isLast, there, other.isLast);
        if (gap) gaps.push({ a: { piece: p, isLast }, b: other, ...gap });
      }
    }
  });
  // Which piece a first one has become part of, and at which of its ends the old end lies.
  const home = pieces.map((_, p) => p);
  const used = new Set<string>();
  const find = (p: number): number => (home[p] === p ? p : find(home[p]));
  for (const { a, b, length } of gaps.sort((g, h) => g.length + 10 * g.turn - h.length - 10 * h.turn)) {
    const names = [a, b].map(({ piece, isLast }) => `${piece} ${isLast}`);
    if (names.some((name) => used.has(name))) continue;
    const [ra, rb] = [find(a.piece), find(b.piece)];
    const [one, two] = [pieces[ra], pieces[rb]];
    const [tipA, tipB] = [a, b].map(({ piece, isLast }) => {
      const { points } = paths[piece];
      const k = isLast ? points[points.length - 1] : points[0];
      return [x[k], y[k]] as const;
    });
    if (ra === rb || !one || !two) continue;
    const isTip = (point: LinePoint, tip: LinePoint): boolean => point[0] === tip[0] && point[1] === tip[1];
    const before = isTip(one.points[one.points.length - 1], tipA) ? one.points : [...one.points].reverse();
    const after = isTip(two.points[0], tipB) ? two.points : [...two.points].reverse();
    pieces[ra] = { points: [...before, ...after], gaps: one.gaps + two.gaps + length, sign: one.sign };
    pieces[rb] = null;
    home[rb] = ra;
    for (const name of names) used.add(name);
  }
  return pieces.filter((piece) => piece !== null);
}
