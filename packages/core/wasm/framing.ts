// Where the pixels of a framed picture are read from. All places are bytes.

/** How a picture lies under its framing, in 64-bit floats. */
const LEFT: usize = 0;
const TOP: usize = 8;
const MIDDLE_X: usize = 16;
const MIDDLE_Y: usize = 24;
const COS: usize = 32;
const SIN: usize = 40;
const HALF_SQUARE: usize = 48;
const K1: usize = 56;
const K2: usize = 64;
const WIDTH: usize = 72;
const HEIGHT: usize = 80;

/** Places between two samples that are told apart. */
const PHASES: f64 = 1024;

/**
 * The sample left of and above each pixel of a rectangle, and how far on it lies, in 1024ths.
 *
 * @param bend corner of what is seen, middle of the original, cosine and sine of the turn, half the diagonal squared, both
 *   lens terms, sides of the original
 * @param fromX corner that samples are counted from; none lies nearer to a border than `near` and `far`
 * @param beyond what stands for a column beyond the original
 * @param columns takes 32-bit numbers, as do `rows`, `across` and `down`
 */
export function placePixels(
  bend: usize,
  left: i32,
  top: i32,
  width: i32,
  height: i32,
  fromX: i32,
  fromY: i32,
  mostX: i32,
  mostY: i32,
  near: i32,
  beyond: i32,
  columns: usize,
  rows: usize,
  across: usize,
  down: usize,
): void {
  const cx = load<f64>(bend, MIDDLE_X);
  const cy = load<f64>(bend, MIDDLE_Y);
  const cos = load<f64>(bend, COS);
  const sin = load<f64>(bend, SIN);
  const half = load<f64>(bend, HALF_SQUARE);
  const k1 = load<f64>(bend, K1);
  const k2 = load<f64>(bend, K2);
  const pictureWidth = load<f64>(bend, WIDTH);
  const pictureHeight = load<f64>(bend, HEIGHT);
  let at: usize = 0;
  for (let y = 0; y < height; y++) {
    const v = <f64>(top + y) + 0.5 + load<f64>(bend, TOP) - cy;
    for (let x = 0; x < width; x++, at += 4) {
      const u = <f64>(left + x) + 0.5 + load<f64>(bend, LEFT) - cx;
      const a = cos * u + sin * v;
      const b = cos * v - sin * u;
      const square = (a * a + b * b) / half;
      const widen = 1 + k1 * square + k2 * square * square;
      const px = cx + a * widen;
      const py = cy + b * widen;
      if (px < 0 || py < 0 || px > pictureWidth || py > pictureHeight) {
        store<i32>(columns + at, beyond);
        continue;
      }
      const wholeX = floor(px - 0.5);
      const wholeY = floor(py - 0.5);
      store<i32>(across + at, <i32>floor((px - 0.5 - wholeX) * PHASES + 0.5));
      store<i32>(down + at, <i32>floor((py - 0.5 - wholeY) * PHASES + 0.5));
      // Never beyond what is laid out, should a lens bend a block more than its border tells.
      store<i32>(columns + at, min(mostX, max(near, <i32>wholeX - fromX)));
      store<i32>(rows + at, min(mostY, max(near, <i32>wholeY - fromY)));
    }
  }
}
