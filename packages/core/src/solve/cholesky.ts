/**
 * Solves a symmetric positive definite system by Cholesky's factorisation.
 *
 * @param matrix `size * size` values row after row, of which the lower triangle is read
 * @returns null where the matrix is not positive definite
 */
export function solveSymmetric(matrix: Float64Array, right: Float64Array): Float64Array | null {
  const n = right.length;
  const lower = new Float64Array(n * n);
  for (let i = 0; i < n; i++) {
    for (let j = 0; j <= i; j++) {
      let sum = matrix[i * n + j];
      for (let k = 0; k < j; k++) sum -= lower[i * n + k] * lower[j * n + k];
      if (i !== j) lower[i * n + j] = sum / lower[j * n + j];
      else if (sum > 0) lower[i * n + i] = Math.sqrt(sum);
      else return null;
    }
  }
  const solution = new Float64Array(n);
  for (let i = 0; i < n; i++) {
    let sum = right[i];
    for (let k = 0; k < i; k++) sum -= lower[i * n + k] * solution[k];
    solution[i] = sum / lower[i * n + i];
  }
  for (let i = n - 1; i >= 0; i--) {
    let sum = solution[i];
    for (let k = i + 1; k < n; k++) sum -= lower[k * n + i] * solution[k];
    solution[i] = sum / lower[i * n + i];
  }
  return solution;
}
