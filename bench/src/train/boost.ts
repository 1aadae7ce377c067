import type { Forest } from '@fennip/core/bench';
import { logOdds } from '@fennip/core/bench';
import { mulberry } from '@fennip/core/random';
import { logistic } from '@fennip/core/solve';

export interface BoostOptions {
  readonly trees: number;
  readonly depth: number;
  readonly rate: number;
  /** Share of the rows and of the traits that a tree sees. */
  readonly rows: number;
  readonly columns: number;
  /** Sum of second derivatives that a leaf must have, and what is added to it. */
  readonly leastLeaf: number;
  readonly ridge: number;
  readonly seed: number;
}

export const BOOST_DEFAULTS: BoostOptions = {
  trees: 240,
  depth: 4,
  rate: 0.09,
  rows: 0.6,
  columns: 0.5,
  leastLeaf: 8,
  ridge: 4,
  seed: 1,
};

const BINS = 64;

/**
 * The thresholds that cut a trait's values into bins: half of them hold about as many of all rows, half about as many
 * of those with the label. Where few have it, all of them would else lie in one bin and nothing could be told of them.
 */
function cutsOf(values: Float64Array, labels: readonly number[]): Float64Array {
  const cuts = new Set<number>();
  for (const own of [values, values.filter((_, i) => labels[i] === 1)]) {
    const sorted = own.slice().sort();
    if (sorted.length === 0) continue;
    for (let b = 1; b < BINS / 2; b++) cuts.add(sorted[Math.floor((2 * b * sorted.length) / BINS)]);
  }
  return Float64Array.from(cuts).sort();
}

function binOf(cuts: Float64Array, value: number): number {
  let [low, high] = [0, cuts.length];
  while (low < high) {
    const middle = (low + high) >> 1;
    if (value <= cuts[middle]) high = middle;
    else low = middle + 1;
  }
  return low;
}

interface Split {
  readonly trait: number;
  readonly bin: number;
  readonly gain: number;
}

/**
 * Trains a forest for the probability of a label by gradient boosting with second-order leaves (Friedman 2001; Chen
 * and Guestrin 2016), on values sorted into bins.
 *
 * @param rows one array of traits each
 * @param labels 0 or 1
 * @param weights how many rows each stands for
 */
export function boost(
  traits: readonly string[],
  rows: readonly Float64Array[],
  labels: readonly number[],
  options: BoostOptions,
  weights: readonly number[] = labels.map(() => 1),
): Forest {
  const n = rows.length;
  const uniform = mulberry(options.seed);
  const cuts = traits.map((_, t) =>
    cutsOf(
      Float64Array.from(rows, (row) => row[t]),
      labels,
    ),
  );
  const bins = traits.map((_, t) => Uint8Array.from(rows, (row) => binOf(cuts[t], row[t])));
  const mean =
    labels.reduce((sum, label, i) => sum + label * weights[i], 0) / weights.reduce((sum, w) => sum + w, 0);
  const base = logOdds(mean);
  const scores = new Float64Array(n).fill(base);
  const slope = new Float64Array(n);
  const bend = new Float64Array(n);
  const trees: number[][] = [];

  function bestSplit(members: Int32Array, looked: readonly number[], g: number, h: number): Split | null {
    let best: Split | null = null;
    const parent = (g * g) / (h + options.ridge);
    const sums = new Float64Array(2 * BINS);
    for (const trait of looked) {
      sums.fill(0);
      const bin = bins[trait];
      for (const i of members) {
        sums[2 * bin[i]] += slope[i];
        sums[2 * bin[i] + 1] += bend[i];
      }
      let [gl, hl] = [0, 0];
      for (let b = 0; b < cuts[trait].length; b++) {
        gl += sums[2 * b];
        hl += sums[2 * b + 1];
        if (hl < options.leastLeaf || h - hl < options.leastLeaf) continue;
        const gain =
          (gl * gl) / (hl + options.ridge) + ((g - gl) * (g - gl)) / (h - hl + options.ridge) - parent;
        if (gain > (best?.gain ?? 1e-6)) best = { trait, bin: b, gain };
      }
    }
    return best;
  }

  /** Grows a node and all below it onto a tree. */
  function grow(members: Int32Array, depth: number, looked: readonly number[], onto: number[]): void {
    let [g, h] = [0, 0];
    for (const i of members) {
      g += slope[i];
      h += bend[i];
    }
    const split = depth > 0 ? bestSplit(members, looked, g, h) : null;
    if (!split) {
      const value = (options.rate * g) / (h + options.ridge);
      onto.push(-1, Number(value.toFixed(5)), 0);
      return;
    }
    const at = onto.length;
    onto.push(split.trait, Number(cuts[split.trait][split.bin].toPrecision(6)), 0);
    const bin = bins[split.trait];
    grow(
      members.filter((i) => bin[i] <= split.bin),
      depth - 1,
      looked,
      onto,
    );
    onto[at + 2] = onto.length / 3;
    grow(
      members.filter((i) => bin[i] > split.bin),
      depth - 1,
      looked,
      onto,
    );
  }

  const valueOf = (tree: readonly number[], row: Float64Array): number => {
    let node = 0;
    while (tree[node] >= 0) node = row[tree[node]] > tree[node + 1] ? 3 * tree[node + 2] : node + 3;
    return tree[node + 1];
  };

  for (let t = 0; t < options.trees; t++) {
    for (let i = 0; i < n; i++) {
      const p = logistic(scores[i]);
      slope[i] = weights[i] * (labels[i] - p);
      bend[i] = weights[i] * p * (1 - p);
    }
    const members = Int32Array.from(rows.keys()).filter(() => uniform() < options.rows);
    const looked = [...traits.keys()].filter(() => uniform() < options.columns);
    const tree: number[] = [];
    grow(members, options.depth, looked, tree);
    for (let i = 0; i < n; i++) scores[i] += valueOf(tree, rows[i]);
    trees.push(tree);
  }
  return { traits, share: mean, base, trees, calibration: { slope: 1, offset: 0 } };
}
