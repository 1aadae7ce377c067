import type { Rect } from '../raster/rect.ts';

/** Work that can be shared out: runs that know nothing of each other, and what must wait for all of them. */
export interface Runs<T> {
  readonly runs: readonly (readonly T[])[];
  readonly rest: readonly T[];
}

/** A run shorter than this is not worth cutting. */
const SHORTEST = 16;
/** Runs at most: more than the threads of a usual machine, so that none of them waits long for a slow run. */
const MOST_RUNS = 16;

interface Placed<T> {
  readonly thing: T;
  readonly reads: Rect;
}

type Axis = 'x' | 'y';
const startOn = (axis: Axis, { left, top }: Rect): number => (axis === 'x' ? left : top);
const endOn = (axis: Axis, { left, top, width, height }: Rect): number =>
  axis === 'x' ? left + width : top + height;
const middleOn = (axis: Axis, { reads }: Placed<unknown>): number =>
  (startOn(axis, reads) + endOn(axis, reads)) / 2;

/** The axis along which things are spread the farther. */
function longerAxis(things: readonly Placed<unknown>[]): Axis {
  const spread = (axis: Axis): number => {
    const middles = things.map((thing) => middleOn(axis, thing));
    return Math.max(...middles) - Math.min(...middles);
  };
  return spread('x') >= spread('y') ? 'x' : 'y';
}

/** Cuts things in two at their median; what reads on both sides of the cut is left over. */
function cut<T>(things: readonly Placed<T>[], runs: number, rest: Placed<T>[]): Placed<T>[][] {
  if (runs < 2 || things.length < 2 * SHORTEST) return [[...things]];
  const axis = longerAxis(things);
  const middles = things.map((thing) => middleOn(axis, thing)).sort((a, b) => a - b);
  const at = Math.round(middles[middles.length >> 1]);
  const before = things.filter(({ reads }) => endOn(axis, reads) <= at);
  const after = things.filter(({ reads }) => startOn(axis, reads) >= at);
  // Where most of it lies across the cut, cutting gains nothing.
  if (before.length + after.length < 0.75 * things.length) return [[...things]];
  rest.push(...things.filter(({ reads }) => endOn(axis, reads) > at && startOn(axis, reads) < at));
  return [...cut(before, runs / 2, rest), ...cut(after, runs / 2, rest)];
}

/**
 * Shares things out by where they look, so that no two runs look at the same pixel (k-d tree, cut at medians). The
 * runs depend on the things alone, not on how many threads there are: whoever carries them out gets the same result.
 *
 * @param readsOf the rectangle a thing looks at
 * @returns each thing once, in its order within its run
 */
export function independentRuns<T>(things: readonly T[], readsOf: (thing: T) => Rect): Runs<T> {
  const placed = things.map((thing) => ({ thing, reads: readsOf(thing) }));
  const left: Placed<T>[] = [];
  const runs = cut(placed, MOST_RUNS, left);
  const order = new Map(things.map((thing, index) => [thing, index]));
  const thingsOf = (some: readonly Placed<T>[]): T[] => some.map(({ thing }) => thing);
  const rest = thingsOf(left).sort((a, b) => (order.get(a) ?? 0) - (order.get(b) ?? 0));
  return { runs: runs.map(thingsOf).filter((run) => run.length > 0), rest };
}
