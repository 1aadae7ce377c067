import type { Rect } from '../../raster/rect.ts';

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

/** Where things are cut in two. */
interface Cut {
  readonly axis: Axis;
  readonly at: number;
}

/** Shares of the things before a cut that is tried. */
const QUANTILES = [0.3, 0.35, 0.4, 0.45, 0.5, 0.55, 0.6, 0.65, 0.7];

const isBefore = ({ axis, at }: Cut, { reads }: Placed<unknown>): boolean => endOn(axis, reads) <= at;
const isAfter = ({ axis, at }: Cut, { reads }: Placed<unknown>): boolean => startOn(axis, reads) >= at;

/** The cut near the middle, across or down, that leaves most things whole on its emptier side. */
function bestCut(things: readonly Placed<unknown>[]): Cut {
  const cuts = (['x', 'y'] as const).flatMap((axis) => {
    const middles = things.map((thing) => middleOn(axis, thing)).sort((a, b) => a - b);
    return QUANTILES.map((share): Cut => ({
      axis,
      at: Math.round(middles[Math.floor(share * middles.length)]),
    }));
  });
  const wholeOn = (cut: Cut): number => {
    let [before, after] = [0, 0];
    for (const thing of things) {
      if (isBefore(cut, thing)) before++;
      else if (isAfter(cut, thing)) after++;
    }
    return Math.min(before, after);
  };
  let best = { cut: cuts[0], whole: -1 };
  for (const cut of cuts) {
    const whole = wholeOn(cut);
    if (whole > best.whole) best = { cut, whole };
  }
  return best.cut;
}

/** Cuts things in two near their middle; what reads on both sides of the cut is left over. */
function cut<T>(things: readonly Placed<T>[], runs: number, rest: Placed<T>[]): Placed<T>[][] {
  if (runs < 2 || things.length < 2 * SHORTEST) return [[...things]];
  const best = bestCut(things);
  const before = things.filter((thing) => isBefore(best, thing));
  const after = things.filter((thing) => isAfter(best, thing));
  // Where most of it lies across the cut, cutting gains nothing.
  if (before.length + after.length < 0.75 * things.length) return [[...things]];
  rest.push(...things.filter((thing) => !isBefore(best, thing) && !isAfter(best, thing)));
  return [...cut(before, runs / 2, rest), ...cut(after, runs / 2, rest)];
}

/**
 * Shares things out by where they look, so that no two runs look at the same pixel (k-d tree, cut where least lies across). The
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
