import { lengthOfPath } from '../../target/lengthOfPath.ts';
import type { Fault } from '../../fault/fault.ts';

type Path = NonNullable<Fault['path']>;
type Place = Path[number];

/** A crease heads where its last so many pixels lead. */
const HEADING_OVER = 400;
/** What goes on in it begins after a gap of at most this share of its length: where another line crosses it is not seen. */
const LONGEST_GAP = 0.35;
/** And lies ahead of it, give or take so many pixels and this share of the way. */
const ASIDE = { pixels: 6, share: 0.035 };
/** Where a bit of a scratch is linked to it, it turns off: the least cosine between its way and the crease's. */
const LEAST_ALONG = 0.8;
/** Shorter pieces are no part of a fold, and shorter remainders no line, in pixels. */
const SHORTEST = { piece: 60, rest: 16 };

/** An end of a crease, the way it heads there, and how far a gap may reach. */
interface Ahead {
  readonly from: Place;
  readonly way: Place;
  readonly gap: number;
}

/** What lies ahead of the last place of a path. */
function aheadOf(path: Path): Ahead {
  const from = path[path.length - 1];
  let back = path.length - 1;
  while (back > 0 && Math.hypot(from[0] - path[back][0], from[1] - path[back][1]) < HEADING_OVER) back--;
  const [dx, dy] = [from[0] - path[back][0], from[1] - path[back][1]];
  const length = Math.hypot(dx, dy) || 1;
  return { from, way: [dx / length, dy / length], gap: LONGEST_GAP * lengthOfPath(path) };
}

/** How far ahead a place lies; null where it lies aside or behind. */
function wayTo([x, y]: Place, { from, way }: Ahead): number | null {
  const [dx, dy] = [x - from[0], y - from[1]];
  const along = dx * way[0] + dy * way[1];
  const aside = Math.abs(dy * way[0] - dx * way[1]);
  return along >= 0 && aside <= ASIDE.pixels + ASIDE.share * along ? along : null;
}

/** True if a path runs about as an end heads between a place and the next. */
function runsAlong(path: Path, i: number, { way }: Ahead): boolean {
  const [dx, dy] = [path[i + 1][0] - path[i][0], path[i + 1][1] - path[i][1]];
  return Math.abs(dx * way[0] + dy * way[1]) >= LEAST_ALONG * Math.hypot(dx, dy);
}

/** The longest run of places that lie ahead and run on that way, from the first to one past the last. */
function longestRun(path: Path, ahead: Ahead): { from: number; to: number } {
  let best = { from: 0, to: 0 };
  let start = 0;
  for (let i = 0; i <= path.length; i++)
    if (i === path.length || wayTo(path[i], ahead) === null) {
      if (i - start > best.to - best.from) best = { from: start, to: i };
      start = i + 1;
    }
  let { from, to } = best;
  while (to - from > 2 && !runsAlong(path, from, ahead)) from++;
  while (to - from > 2 && !runsAlong(path, to - 2, ahead)) to--;
  return { from, to };
}

/** A part of a line as a fault of its own. */
function partOf(line: Fault, from: number, to: number): Fault {
  const path = (line.path ?? []).slice(from, to);
  const [x, y] = path[path.length >> 1];
  return { ...line, x, y, path };
}

interface Continued {
  /** What goes on in the crease, heading away from it. */
  readonly piece: Fault;
  /** What was linked to it and leads elsewhere. */
  readonly rest: readonly Fault[];
}

/** A line as the continuation of a crease; null where it is none. */
function continued(line: Fault, ahead: Ahead): Continued | null {
  const { path = [] } = line;
  const { from, to } = longestRun(path, ahead);
  if (to - from < 2 || 2 * (to - from) < path.length) return null;
  const piece = partOf(line, from, to);
  const way = (piece.path ?? []).map((place) => wayTo(place, ahead) ?? Infinity);
  if (Math.min(...way) > ahead.gap || lengthOfPath(piece.path ?? []) < SHORTEST.piece) return null;
  const isAway = way[0] < way[way.length - 1];
  const rest = [
    [0, from],
    [to, path.length],
  ].flatMap(([a, b]) =>
    b - a > 1 && lengthOfPath(path.slice(a, b)) >= SHORTEST.rest ? [partOf(line, a, b)] : [],
  );
  return {
    piece: { ...piece, kind: 'crease', path: isAway ? piece.path : [...(piece.path ?? [])].reverse() },
    rest,
  };
}

/**
 * Names what goes on in a crease a crease too: where scratches cross a fold it is found in pieces, and some of them, cut
 * short or linked to a bit of a scratch, do not show the relief by which they would be recognised alone.
 *
 * @returns all lines; one that was linked of two is in its parts
 */
export function continueCreases(lines: readonly Fault[]): Fault[] {
  const all = [...lines];
  const ends = all.flatMap(({ kind, path = [], polarity }) =>
    kind === 'crease' && path.length > 1
      ? [path, [...path].reverse()].map((way) => ({ polarity, ahead: aheadOf(way) }))
      : [],
  );
  for (let end = ends.shift(); end; end = ends.shift()) {
    const { polarity, ahead } = end;
    for (const [k, line] of all.entries()) {
      if (line.kind !== 'scratch' || line.polarity !== polarity) continue;
      const found = continued(line, ahead);
      if (!found) continue;
      all.splice(k, 1, found.piece, ...found.rest);
      // Of a short piece the heading says little: the gap stays that of the crease it goes on from.
      ends.push({ polarity, ahead: { ...aheadOf(found.piece.path ?? []), gap: ahead.gap } });
      break;
    }
  }
  return all;
}
