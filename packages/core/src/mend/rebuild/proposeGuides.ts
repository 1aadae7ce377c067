import type { CutEdge } from '../../examine/areas/edgesInto.ts';
import type { Point } from '../../target/target.ts';
import type { Guide } from './guide.ts';

/** An edge turns at each end by at most so much to meet the other, in radians. */
const MOST_TURN = 0.8;
/** Steps of two ends of one edge are alike: the smaller is at least this share of the larger. */
const LEAST_LIKENESS = 0.4;
/** What a difference in step costs, against a turn in radians. */
const STEP_COST = 0.3;
/** A guide runs on straight into what is known for so many pixels: there it is told what lies beside it. */
const INTO_KNOWN = 16;
/** A point of a guide for about so many pixels. */
const EVERY = 4;

interface Pair {
  readonly a: number;
  readonly b: number;
  readonly cost: number;
}

const wrapped = (angle: number): number => Math.abs(Math.atan2(Math.sin(angle), Math.cos(angle)));

/** How badly two edges continue one another; null where they do not. */
function costOf(a: CutEdge, b: CutEdge): number | null {
  const way = Math.atan2(b.y - a.y, b.x - a.x);
  const turns = [wrapped(way - a.angle), wrapped(way + Math.PI - b.angle)];
  const likeness = Math.min(a.step, b.step) / Math.max(a.step, b.step);
  if (Math.max(...turns) > MOST_TURN || likeness < LEAST_LIKENESS) return null;
  return turns[0] + turns[1] - STEP_COST * Math.log(likeness);
}

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
  return {
    points: [
      [a.x - INTO_KNOWN * ax, a.y - INTO_KNOWN * ay],
      ...inside,
      [b.x + INTO_KNOWN * bx, b.y + INTO_KNOWN * by],
    ],
  };
}

/**
 * Proposes guides through a loss: edges that run into it are joined where they continue one another, with the least
 * turning and the most alike in step first, each at most once (good continuation).
 *
 * @param edges that run into the loss, in pixels of the picture
 */
export function proposeGuides(edges: readonly CutEdge[]): Guide[] {
  const pairs = edges.flatMap((first, a) =>
    edges.slice(a + 1).flatMap((second, k): Pair[] => {
      const cost = costOf(first, second);
      return cost === null ? [] : [{ a, b: a + 1 + k, cost }];
    }),
  );
  const taken = new Set<number>();
  return pairs
    .sort((one, other) => one.cost - other.cost)
    .flatMap(({ a, b }): Guide[] => {
      if (taken.has(a) || taken.has(b)) return [];
      taken.add(a).add(b);
      return [between(edges[a], edges[b])];
    });
}
