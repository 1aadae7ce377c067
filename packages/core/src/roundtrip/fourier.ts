/** One row or column in place, by halves (Cooley and Tukey 1965). */
function transformLine(real: Float64Array, imaginary: Float64Array, sign: 1 | -1): void {
  const n = real.length;
  for (let i = 1, j = 0; i < n; i++) {
    let bit = n >> 1;
    for (; j & bit; bit >>= 1) j ^= bit;
    j ^= bit;
    if (i >= j) continue;
    [real[i], real[j]] = [real[j], real[i]];
    [imaginary[i], imaginary[j]] = [imaginary[j], imaginary[i]];
  }
  for (let length = 2; length <= n; length *= 2) {
    const half = length >> 1;
    const step = (sign * 2 * Math.PI) / length;
    for (let k = 0; k < half; k++) {
      const [cos, sin] = [Math.cos(step * k), Math.sin(step * k)];
      for (let i = k; i < n; i += length) {
        const j = i + half;
        const re = real[j] * cos - imaginary[j] * sin;
        const im = real[j] * sin + imaginary[j] * cos;
        real[j] = real[i] - re;
        imaginary[j] = imaginary[i] - im;
        real[i] += re;
        imaginary[i] += im;
      }
    }
  }
}

/**
 * The Fourier transform of a square, in place; back and forth gives the same again.
 *
 * @param side a power of two
 */
export function fourier(
  real: Float64Array,
  imaginary: Float64Array,
  side: number,
  way: 'forward' | 'back',
): void {
  const sign = way === 'forward' ? -1 : 1;
  for (let y = 0; y < side; y++)
    transformLine(
      real.subarray(y * side, (y + 1) * side),
      imaginary.subarray(y * side, (y + 1) * side),
      sign,
    );
  const [lineReal, lineImaginary] = [new Float64Array(side), new Float64Array(side)];
  for (let x = 0; x < side; x++) {
    for (let y = 0; y < side; y++) {
      lineReal[y] = real[y * side + x];
      lineImaginary[y] = imaginary[y * side + x];
    }
    transformLine(lineReal, lineImaginary, sign);
    for (let y = 0; y < side; y++) {
      real[y * side + x] = lineReal[y];
      imaginary[y * side + x] = lineImaginary[y];
    }
  }
  if (way === 'forward') return;
  const all = side * side;
  for (let i = 0; i < all; i++) {
    real[i] /= all;
    imaginary[i] /= all;
  }
}
