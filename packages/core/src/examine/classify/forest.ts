import { columnOf } from '../../measure/columnOf.ts';
import { holding, kernels, layOut, take } from '../../kernels/kernels.ts';

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
/** Bytes of a compiled node: threshold, offset of the trait, offset of the node for values above. */
const BYTES = 16;
/** Rows that are led through all trees at once: their traits stay near at hand too. */
const BATCH = 128;
/** So many are led through a tree side by side. */
const ABREAST = 4;

/** A forest as the compiled loop reads it. */
interface CompiledForest {
  readonly nodes: Uint8Array;
  /** What each node adds, if it is a leaf. */
  readonly worths: Float64Array;
  /** Where each tree begins, in bytes, and how many steps down its deepest leaf lies. */
  readonly roots: Int32Array;
  readonly depths: Int32Array;
}

/** How many steps down the deepest leaf below a node lies. */
const depthBelow = (tree: readonly number[], node: number): number =>
  tree[NODE * node] < 0
    ? 0
    : 1 + Math.max(depthBelow(tree, node + 1), depthBelow(tree, tree[NODE * node + 2]));

function compiled(trees: Forest['trees']): CompiledForest {
  const count = trees.reduce((sum, tree) => sum + tree.length / NODE, 0);
  const nodes = new DataView(new ArrayBuffer(BYTES * count));
  const worths = new Float64Array(count);
  const roots = new Int32Array(trees.length);
  let at = 0;
  trees.forEach((tree, t) => {
    roots[t] = BYTES * at;
    for (let k = 0; k < tree.length; k += NODE, at++) {
      const [trait, value, above] = tree.slice(k, k + NODE);
      const isLeaf = trait < 0;
      // Before the traits of each row stands a 0: that is above a leaf's threshold, and above it a leaf leads to itself.
      nodes.setFloat64(BYTES * at, isLeaf ? -Infinity : value, true);
      nodes.setInt32(BYTES * at + 8, isLeaf ? 0 : 8 * (trait + 1), true);
      nodes.setInt32(BYTES * at + 12, isLeaf ? BYTES * at : roots[t] + BYTES * above, true);
      worths[at] = isLeaf ? value : 0;
    }
  });
  const depths = columnOf(Int32Array, trees, (tree) => depthBelow(tree, 0));
  return { nodes: new Uint8Array(nodes.buffer), worths, roots, depths };
}

/** Friedman 2001, Greedy function approximation: a gradient boosting machine; only its evaluation stands here. */
export function growForest({ base, trees, calibration: { slope, offset } }: Forest): GrownForest {
  // Made when it is first asked: every page loads the forests, and few ever score.
  let made: CompiledForest | null = null;

  function scoreAll(rows: readonly ArrayLike<number>[]): Float64Array {
    made ??= compiled(trees);
    const scores = new Float64Array(rows.length);
    const width = (rows[0]?.length ?? 0) + 1;
    holding([made.nodes, made.worths, made.roots, made.depths], (nodes, worths, roots, depths) => {
      for (let from = 0; from < rows.length; from += BATCH) {
        const batch = rows.slice(from, from + BATCH);
        const count = ABREAST * Math.ceil(batch.length / ABREAST);
        const traits = new Float64Array(count * width);
        batch.forEach((row, k) => traits.set(row, k * width + 1));
        const [laid, sums] = layOut([traits, new Float64Array(count).fill(base)]);
        kernels().addLeaves(nodes, worths, roots, depths, trees.length, laid, width, count, sums);
        const totals = take(Float64Array, sums, batch.length);
        for (let k = 0; k < totals.length; k++) scores[from + k] = slope * totals[k] + offset;
      }
    });
    return scores;
  }

  return { score: (traits) => scoreAll([traits])[0], scoreAll };
}
