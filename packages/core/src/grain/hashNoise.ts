/** Coefficients of the inverse of the normal distribution: its middle, and its tails. (Acklam 2003.) */
const MIDDLE_ABOVE = [
  -39.69683028665376, 220.9460984245205, -275.9285104469687, 138.357751867269, -30.66479806614716,
  2.506628277459239,
];
const MIDDLE_BELOW = [
  -54.47609879822406, 161.5858368580409, -155.6989798598866, 66.80131188771972, -13.28068155288572, 1,
];
const TAIL_ABOVE = [
  -0.007784894002430293, -0.3223964580411365, -2.400758277161838, -2.549732539343734, 4.374664141464968,
  2.938163982698783,
];
const TAIL_BELOW = [0.007784695709041462, 0.3224671290700398, 2.445134137142996, 3.754408661907416, 1];
const TAIL = 0.02425;

/** The value of a polynomial, its highest power first. */
function polynomial(factors: readonly number[], x: number): number {
  let sum = 0;
  for (const factor of factors) sum = sum * x + factor;
  return sum;
}

/** The inverse of the normal distribution to nine digits. (Acklam 2003) */
function inverseNormal(p: number): number {
  if (p > 1 - TAIL) return -inverseNormal(1 - p);
  if (p < TAIL) {
    const q = Math.sqrt(-2 * Math.log(p));
    return polynomial(TAIL_ABOVE, q) / polynomial(TAIL_BELOW, q);
  }
  const q = p - 0.5;
  const r = q * q;
  return (polynomial(MIDDLE_ABOVE, r) * q) / polynomial(MIDDLE_BELOW, r);
}

/**
 * Standard normal values for every 16-bit number, in order: the inverse of the normal distribution at even steps.
 * Made when it is first asked for: every page and thread loads this, and few make noise.
 */
let normal: Float32Array | undefined;
const normalValues = (): Float32Array =>
  (normal ??= Float32Array.from({ length: 65_536 }, (_, i) => inverseNormal((i + 0.5) / 65_536)));

/**
 * White normal noise of deviation 1 that depends on the place and the seed alone, so that pieces worked out each for
 * itself meet without a seam. (The mixer is the finaliser of MurmurHash3, common practice.)
 */
export function hashNoise(x: number, y: number, seed: number): number {
  let mixed = Math.imul(x, 0x9e3779b1) ^ Math.imul(y + 0x7f4a7c15, 0x85ebca6b) ^ seed;
  mixed = Math.imul(mixed ^ (mixed >>> 16), 0x85ebca6b);
  mixed = Math.imul(mixed ^ (mixed >>> 13), 0xc2b2ae35);
  return normalValues()[(mixed ^ (mixed >>> 16)) & 0xffff];
}
