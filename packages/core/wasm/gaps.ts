// How alike a texture's samples are by how far apart they lie, and what that tells of samples that are lost. All places
// are bytes.
import { sumOf } from './lanes';

/**
 * Sums of the products of all samples with those (dx, dy) on, for every dx from -reach to reach and dy from 0 to reach.
 *
 * @param data the first sample; rows of 32-bit floats, `stride` bytes apart, with zeros for `reach` samples before and for
 *   `reach` and three more behind each row
 * @param table 64-bit floats, row after row; of the first row only what is not on the left is written
 */
export function covary(data: usize, width: i32, height: i32, stride: usize, reach: i32, table: usize): void {
  const side = 2 * reach + 1;
  const bytes = (<usize>((width + 3) & ~3)) << 2;
  for (let dy = 0; dy <= reach; dy++) {
    for (let dx = dy === 0 ? 0 : -reach; dx <= reach; dx++) {
      let sum: f64 = 0;
      const away = dy * <i32>stride + (dx << 2);
      for (let y = 0; y + dy < height; y++) {
        const row = data + y * stride;
        const other = row + away;
        let products = f32x4.splat(0);
        for (let i: usize = 0; i < bytes; i += 16)
          products = f32x4.add(products, f32x4.mul(v128.load(row + i), v128.load(other + i)));
        sum += sumOf(products);
      }
      store<f64>(table + ((<usize>(dy * side + dx + reach)) << 3), sum);
    }
  }
}

// The table of a covariance that is being read.
let table: usize = 0;
let reach: i32 = 0;

function covarianceAt(dx: i32, dy: i32): f64 {
  if (abs(dx) > reach || abs(dy) > reach) return 0;
  const turned = dy < 0 || (dy === 0 && dx < 0);
  const row = turned ? -dy : dy;
  const column = turned ? -dx : dx;
  return load<f64>(table + ((<usize>(row * (2 * reach + 1) + column + reach)) << 3));
}

/** The product of two rows up to a column, two at a time: rows begin at places of 16 bytes. */
function alongRows(one: usize, other: usize, count: i32): f64 {
  let sums = f64x2.splat(0);
  const pairs = (<usize>(count >> 1)) << 4;
  for (let i: usize = 0; i < pairs; i += 16)
    sums = f64x2.add(sums, f64x2.mul(v128.load(one + i), v128.load(other + i)));
  let sum = f64x2.extract_lane(sums, 0) + f64x2.extract_lane(sums, 1);
  if (count & 1) sum += load<f64>(one + pairs) * load<f64>(other + pairs);
  return sum;
}

/**
 * The weights by which each lost sample is predicted best from its witnesses: a solved system for each, by Cholesky's
 * factorisation, and zeros where it has no solution.
 *
 * @param offsets dx and dy of every witness, 32-bit numbers; `errors` their variances, 64-bit floats
 * @param counts how many witnesses each lost sample has, one after the other
 * @param covariances the table as {@link covary} lays it out, `own` what is on a system's diagonal
 * @param lower room for a square of as many 64-bit floats as the most witnesses, whose rows have `stride` bytes, a
 *   multiple of 16
 * @param weights takes the result, one 64-bit float for each witness
 */
export function predict(
  offsets: usize,
  errors: usize,
  counts: usize,
  samples: i32,
  covariances: usize,
  covarianceReach: i32,
  own: f64,
  lower: usize,
  stride: usize,
  weights: usize,
): void {
  table = covariances;
  reach = covarianceReach;
  for (let s = 0; s < samples; s++) {
    const n = load<i32>(counts + (s << 2));
    let isSolved = true;
    for (let i = 0; i < n && isSolved; i++) {
      const row = lower + i * stride;
      const x = load<i32>(offsets + (i << 3));
      const y = load<i32>(offsets + (i << 3), 4);
      for (let j = 0; j < i; j++) {
        const other = lower + j * stride;
        const here = covarianceAt(x - load<i32>(offsets + (j << 3)), y - load<i32>(offsets + (j << 3), 4));
        store<f64>(row + (j << 3), (here - alongRows(row, other, j)) / load<f64>(other + (j << 3)));
      }
      const rest = own + load<f64>(errors + (i << 3)) - alongRows(row, row, i);
      isSolved = rest > 0;
      store<f64>(row + (i << 3), sqrt(rest));
      // Forward at once: the right side is how alike the witness and the sample are.
      store<f64>(
        weights + (i << 3),
        (covarianceAt(x, y) - alongRows(row, weights, i)) / load<f64>(row + (i << 3)),
      );
    }
    for (let i = n - 1; i >= 0; i--) {
      let sum = load<f64>(weights + (i << 3));
      for (let k = i + 1; k < n; k++)
        sum -= load<f64>(lower + k * stride + (i << 3)) * load<f64>(weights + (k << 3));
      store<f64>(weights + (i << 3), isSolved ? sum / load<f64>(lower + i * stride + (i << 3)) : 0);
    }
    offsets += n << 3;
    errors += n << 3;
    weights += n << 3;
  }
}
