import { kernels, layOut, take } from '../../filter/kernels.ts';

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
  /** The same for what is kept of all that was found on a picture. */
  readonly kept?: Calibration;
}

/** Changes nothing. */
export const AS_IT_IS: Calibration = { slope: 1, offset: 0 };

/** A forest laid out for speed. */
export interface GrownForest {
  /** @returns the sum of all leaves, calibrated: a log-odds */
  score(traits: ArrayLike<number>): number;
  /** The scores of many, each of as many traits. */
  scoreAll(rows: readonly ArrayLike<number>[]): Float64Array;
}

const NODE = 3;
/** Bytes of a compiled node: threshold or value, offset of the trait or -1, offset of the node for values above. */
const BYTES = 16;
/** Rows that are led through all trees at once: their traits stay near at hand too. */
const BATCH = 512;

/** The nodes of all trees as the compiled loop reads them, and where each tree begins. */
function compiled(trees: Forest['trees']): { nodes: Uint8Array; roots: Int32Array } {
  const count = trees.reduce((sum, tree) => sum + tree.length / NODE, 0);
  const nodes = new DataView(new ArrayBuffer(BYTES * count));
  const roots = new Int32Array(trees.length);
  let at = 0;
  trees.forEach((tree, t) => {
    roots[t] = at;
    for (let k = 0; k < tree.length; k += NODE) {
      const [trait, value, above] = tree.slice(k, k + NODE);
      nodes.setFloat64(at, value, true);
      nodes.setInt32(at + 8, trait < 0 ? -1 : 8 * trait, true);
      nodes.setInt32(at + 12, roots[t] + BYTES * above, true);
      at += BYTES;
    }
  });
  return { nodes: new Uint8Array(nodes.buffer), roots };
}

/** Friedman 2001, Greedy function approximation: a gradient boosting machine; only its evaluation stands here. */
export function growForest({ base, trees, calibration: { slope, offset } }: Forest): GrownForest {
  // Made when it is first asked: every page loads the forests, and few ever score.
  let made: ReturnType<typeof compiled> | null = null;

  function scoreBatch(rows: readonly ArrayLike<number>[]): Float64Array {
    made ??= compiled(trees);
    const width = rows[0].length;
    const traits = new Float64Array(rows.length * width);
    rows.forEach((row, k) => traits.set(row, k * width));
    const sums = new Float64Array(rows.length).fill(base);
    const [nodes, roots, laid, out] = layOut([made.nodes, made.roots, traits, sums]);
    kernels().addLeaves(nodes, roots, trees.length, laid, width, rows.length, out);
    return take(Float64Array, out, rows.length).map((sum) => slope * sum + offset);
  }

  function scoreAll(rows: readonly ArrayLike<number>[]): Float64Array {
    const scores = new Float64Array(rows.length);
    for (let k = 0; k < rows.length; k += BATCH) scores.set(scoreBatch(rows.slice(k, k + BATCH)), k);
    return scores;
  }

  return { score: (traits) => scoreAll([traits])[0], scoreAll };
}
