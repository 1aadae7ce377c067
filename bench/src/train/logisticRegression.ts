import { logistic } from '@fennip/core/solve';
const ROUNDS = 60;

/**
 * The weights under which a weighted sum of values, added to the log-odds that are known, is the log-odds of a label, by
 * Newton's method on the logistic likelihood with a slight pull towards 0.
 *
 * @param rows the values of each example; one that is always 1 gives an offset
 * @param labels 0 or 1
 * @param known the log-odds that each example begins with
 */
export function logisticRegression(
  rows: readonly (readonly number[])[],
  labels: readonly number[],
  known: readonly number[] = labels.map(() => 0),
): number[] {
  const size = rows[0].length;
  const weights = new Array<number>(size).fill(0);
  for (let round = 0; round < ROUNDS; round++) {
    const slope = weights.map((weight) => -weight);
    const bend = Array.from({ length: size }, (_, a) =>
      Array.from({ length: size }, (_, b) => (a === b ? 1 : 0)),
    );
    rows.forEach((row, i) => {
      const odds = row.reduce((sum, value, k) => sum + value * weights[k], known[i]);
      const chance = logistic(odds);
      for (let a = 0; a < size; a++) {
        slope[a] += (labels[i] - chance) * row[a];
        for (let b = 0; b < size; b++) bend[a][b] += chance * (1 - chance) * row[a] * row[b];
      }
    });
    const step = solved(bend, slope);
    step.forEach((by, k) => (weights[k] += by));
    if (step.every((by) => Math.abs(by) < 1e-7)) break;
  }
  return weights;
}

/** The solution of a few linear equations whose matrix is positive definite. */
function solved(matrix: readonly (readonly number[])[], right: readonly number[]): number[] {
  const rows = matrix.map((row, i) => [...row, right[i]]);
  rows.forEach((pivot, k) => {
    for (const row of rows) {
      if (row === pivot) continue;
      const times = row[k] / pivot[k];
      row.forEach((_, j) => (row[j] -= times * pivot[j]));
    }
  });
  return rows.map((row, k) => row[row.length - 1] / row[k]);
}
