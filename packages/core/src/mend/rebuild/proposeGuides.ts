import type { CutEdge } from '../../examine/areas/edgesInto.ts';
import type { Point } from '../../target/target.ts';
import type { Guide } from './guide.ts';

/** An edge turns at each end by at most so much to meet the other, in radians. */
const MOST_TURN = 0.8;
/** Steps of two ends of one edge are alike: the smaller is at least this share of the larger. */
const LEAST_LIKENESS = 0.4;
/** What a difference in step costs, against a turn in radians. */
const STEP_COST = 0.3;
/** A point of a guide for about so many pixels. */
const EVERY = 4;

/** Edges that would have to turn by more than this in all, in radians, are taken to meet in a corner. */
const CORNER_FROM = 1.1;
/** A corner is about square: the cosine between its sides is at most this. */
const SQUARE = 0.4;
/** And neither side of it is longer than so many times the way from end to end. */
const LONGEST_SIDE = 1.2;

interface Pair {
  readonly a: number;
  readonly b: number;
  readonly cost: number;
  readonly guide: Guide;
}

const wrapped = (angle: number): number => Math.abs(Math.atan2(Math.sin(angle), Math.cos(angle)));

/** How much two edges turn to meet, and how alike their steps are; null where the steps are not. */
function turningOf(a: CutEdge, b: CutEdge): { turns: [number, number]; unlike: number } | null {
  const way = Math.atan2(b.y - a.y, b.x - a.x);
  const likeness = Math.min(a.step, b.step) / Math.max(a.step, b.step);
  if (likeness < LEAST_LIKENESS) return null;
  return {
    turns: [wrapped(way - a.angle), wrapped(way + Math.PI - b.angle)],
    unlike: -STEP_COST * Math.log(likeness),
  };
}

/** Where two edges that go straight on meet at about a right angle, ahead of both; null where they do not. */
function cornerOf(a: CutEdge, b: CutEdge): Point | null {
  const [ax, ay] = [Math.cos(a.angle), Math.sin(a.angle)];
  const [bx, by] = [Math.cos(b.angle), Math.sin(b.angle)];
  const cross = ax * by - ay * bx;
  if (Math.abs(ax * bx + ay * by) > SQUARE) return null;
  const along = ((b.x - a.x) * by - (b.y - a.y) * bx) / cross;
  const back = ((b.x - a.x) * ay - (b.y - a.y) * ax) / cross;
  const longest = LONGEST_SIDE * Math.hypot(b.x - a.x, b.y - a.y);
  if (Math.min(along, back) <= 0 || Math.max(along, back) > longest) return null;
  return [a.x + along * ax, a.y + along * ay];
}

/** Two edges joined: by a curve where they continue one another, by a corner where they meet squarely. */
function joined(a: CutEdge, b: CutEdge): Omit<Pair, 'a' | 'b'> | null {
  const turning = turningOf(a, b);
  if (!turning) return null;
  const { turns, unlike } = turning;
  const cost = turns[0] + turns[1] + unlike;
  if (turns[0] + turns[1] > CORNER_FROM) {
    const corner = cornerOf(a, b);
    if (corner) return { cost, guide: { points: throughLoss(a, [corner], b) } };
  }
  return Math.max(...turns) > MOST_TURN ? null : { cost, guide: between(a, b) };
}

/** From where one edge is known to where the other is: there what lies beside the guide is measured. */
const throughLoss = (a: CutEdge, inside: readonly Point[], b: CutEdge): Point[] => [
  ...[...a.course].reverse(),
  ...inside,
  ...b.course,
];

/** The cubic that leaves one edge along its way in and comes to the other against its own (Hermite). */
function between(a: CutEdge, b: CutEdge): Guide {
  const length = Math.hypot(b.x - a.x, b.y - a.y);
  const count = Math.max(2, Math.ceil(length / EVERY));
  const [ax, ay] = [Math.cos(a.angle), Math.sin(a.angle)];
  const [bx, by] = [-Math.cos(b.angle), -Math.sin(b.angle)];
  const at = (t: number): Point => {
    const [fromA, alongA] = [(1 + 2 * t) * (1 - t) ** 2, t * (1 - t) ** 2 * length];
    const [fromB, alongB] = [t * t * (3 - 2 * t), t * t * (t - 1) * length];
    return [
      fromA * a.x + alongA * ax + fromB * b.x + alongB * bx,
      fromA * a.y + alongA * ay + fromB * b.y + alongB * by,
    ];
  };
  const inside = Array.from({ length: count + 1 }, (_, k) => at(k / count));
  return { points: throughLoss(a, inside, b) };
}

/**
 * Proposes guides through a loss: edges that run into it are joined where they continue one another, with the least
 * turning and the most alike in step first, each at most once (good continuation). Those that would have to turn much
 * meet in a corner where they stand square to one another.
 *
 * @param edges that run into the loss, in pixels of the picture
 * @returns points in pixels of the picture, at least two for each guide
 */
export function proposeGuides(edges: readonly CutEdge[]): Guide[] {
  const pairs = edges.flatMap((first, a) =>
    edges.slice(a + 1).flatMap((second, k): Pair[] => {
      const join = joined(first, second);
      return join ? [{ a, b: a + 1 + k, ...join }] : [];
    }),
  );
  const taken = new Set<number>();
  return pairs
    .sort((one, other) => one.cost - other.cost)
    .flatMap(({ a, b, guide }): Guide[] => {
      if (taken.has(a) || taken.has(b)) return [];
      taken.add(a).add(b);
      return [guide];
    });
}
