/** The straight line through log-odds by which scores mean what they say, on pictures that were not trained on. */
export interface Calibration {
  readonly slope: number;
  readonly offset: number;
}

/** A forest of decision trees whose leaves are added up, as a training script writes it. */
export interface Forest {
  /** What the trees look at, in the order of the values they are given. */
  readonly traits: readonly string[];
  /** The share of faults among the examples. */
  readonly share: number;
  /** Added to the sum of all leaves. */
  readonly base: number;
  /**
   * One row of numbers a tree, node after node: trait, threshold, index of the node for values above it; a value at
   * or below goes to the next node. A leaf is -1, its value, 0.
   */
  readonly trees: readonly (readonly number[])[];
  readonly calibration: Calibration;
}

/** A forest laid out for speed. */
export interface GrownForest {
  /** @returns the sum of all leaves, calibrated: a log-odds */
  score(traits: ArrayLike<number>): number;
}

const NODE = 3;

/** Friedman 2001, Greedy function approximation: a gradient boosting machine; only its evaluation stands here. */
export function growForest({ base, trees, calibration: { slope, offset } }: Forest): GrownForest {
  const nodes = Float64Array.from(trees.flat());
  const starts = new Int32Array(trees.length);
  let start = 0;
  trees.forEach((tree, t) => {
    starts[t] = start;
    start += tree.length;
  });
  return {
    score(traits) {
      let sum = base;
      for (const root of starts) {
        let node = root;
        while (nodes[node] >= 0)
          node = traits[nodes[node]] > nodes[node + 1] ? root + NODE * nodes[node + 2] : node + NODE;
        sum += nodes[node + 1];
      }
      return slope * sum + offset;
    },
  };
}
