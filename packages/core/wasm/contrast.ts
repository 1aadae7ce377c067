// What local contrast measures its pixels against: means over blocks, and a plane between their middles. All offsets are
// bytes, all samples 32-bit floats.

/**
 * Means of values and of their squares over blocks of a grid that lies the same wherever the part begins.
 *
 * @param left columns of the first block that lie before the part; `top` alike
 * @param mean where they are written, `columns` to a row of blocks; `square` alike
 */
export function blockMeans(
  values: usize,
  width: i32,
  height: i32,
  left: i32,
  top: i32,
  block: i32,
  mean: usize,
  square: usize,
  columns: i32,
): void {
  const rows = (top + height + block - 1) / block;
  memory.fill(mean, 0, (columns * rows) << 2);
  memory.fill(square, 0, (columns * rows) << 2);
  for (let y = 0; y < height; y++) {
    let at = ((top + y) / block) * columns;
    let next = values + ((y * width) << 2);
    let x = 0;
    for (let end = block - left; x < width; end += block) {
      let sum: f32 = 0;
      let squares: f32 = 0;
      for (; x < min(end, width); x++) {
        const value = load<f32>(next);
        sum += value;
        squares += value * value;
        next += 4;
      }
      const place = at << 2;
      store<f32>(mean + place, load<f32>(mean + place) + sum);
      store<f32>(square + place, load<f32>(square + place) + squares);
      at++;
    }
  }
  for (let row = 0; row < rows; row++) {
    const tall = min(height, (row + 1) * block - top) - max(0, row * block - top);
    for (let column = 0; column < columns; column++) {
      const wide = min(width, (column + 1) * block - left) - max(0, column * block - left);
      const place = (row * columns + column) << 2;
      const share = <f32>1 / <f32>(wide * tall);
      store<f32>(mean + place, load<f32>(mean + place) * share);
      store<f32>(square + place, load<f32>(square + place) * share);
    }
  }
}

/** From mean and mean square: into `square` how far the ground follows the values, into `mean` what it adds to that. */
export function groundOf(mean: usize, square: usize, count: i32, border: f32): void {
  const none = f32x4.splat(0);
  const one = f32x4.splat(1);
  const soft = f32x4.splat(border);
  const end = (<usize>count) << 2;
  for (let i: usize = 0; i < end; i += 16) {
    const middle = v128.load(mean + i);
    const variance = f32x4.max(none, f32x4.sub(v128.load(square + i), f32x4.mul(middle, middle)));
    const slope = f32x4.div(variance, f32x4.add(variance, soft));
    v128.store(square + i, slope);
    v128.store(mean + i, f32x4.mul(f32x4.sub(one, slope), middle));
  }
}

/** A row of a plane of blocks at the height of a pixel. */
function rowBetween(before: usize, after: usize, way: f32, columns: i32, onto: usize): void {
  for (let x = 0; x < columns; x++) {
    const at = x << 2;
    const first = load<f32>(before + at);
    store<f32>(onto + at, first + way * (load<f32>(after + at) - first));
  }
}

/**
 * By how much values stand out from their ground, times an amount.
 *
 * `across` holds for every column the block before it and the one after it, `along` how far it is on the way between
 * their middles; `down` and `aside` the same for the rows. `mixed` has room for two rows of blocks.
 *
 * @param stride of the values, in samples
 */
export function fromGround(
  values: usize,
  stride: i32,
  onto: usize,
  width: i32,
  height: i32,
  slopes: usize,
  offsets: usize,
  columns: i32,
  across: usize,
  along: usize,
  down: usize,
  aside: usize,
  mixed: usize,
  amount: f32,
): void {
  const levels = mixed + (columns << 2);
  for (let y = 0; y < height; y++) {
    const before = (load<i32>(down + (y << 3)) * columns) << 2;
    const after = (load<i32>(down + (y << 3) + 4) * columns) << 2;
    const way = load<f32>(aside + (y << 2));
    rowBetween(slopes + before, slopes + after, way, columns, mixed);
    rowBetween(offsets + before, offsets + after, way, columns, levels);
    const row = values + ((y * stride) << 2);
    const out = onto + ((y * width) << 2);
    for (let x = 0; x < width; x++) {
      const left = load<i32>(across + (x << 3)) << 2;
      const right = load<i32>(across + (x << 3) + 4) << 2;
      const share = load<f32>(along + (x << 2));
      const value = load<f32>(row + (x << 2));
      const slope = load<f32>(mixed + left);
      const level = load<f32>(levels + left);
      const steep = slope + share * (load<f32>(mixed + right) - slope);
      const base = level + share * (load<f32>(levels + right) - level);
      store<f32>(out + (x << 2), amount * (value - steep * value - base));
    }
  }
}
