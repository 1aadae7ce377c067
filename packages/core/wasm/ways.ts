// The cheapest ways through a plane. All places are bytes, all values 32-bit floats, all planes without gaps between rows.

const STEEP: f32 = 1.4142135623730951;

/**
 * What it costs to enter each pixel: a little for the way, and more where it is unlike a look and where it is steep.
 *
 * @param features planes of `count` values, one behind the other, `planes` of them
 * @param looks for each of `most` looks the mean and the sharpness of each feature; the nearest counts
 * @param by how far likeness costs nothing, what unlikeness costs beyond it, squared; how steep costs nothing, what
 *   steepness costs beyond it; what the way costs
 */
export function enterCosts(
  features: usize,
  planes: i32,
  steepness: usize,
  onto: usize,
  count: i32,
  looks: usize,
  most: i32,
  by: usize,
): void {
  const plane = (<usize>count) << 2;
  const none = f32x4.splat(0);
  // What is left at the end is worked out from what lies behind it, and lands in the room behind.
  for (let i: usize = 0; i < plane; i += 16) {
    let nearest = f32x4.splat(f32.MAX_VALUE);
    let look = looks;
    for (let k = 0; k < most; k++) {
      let sum = none;
      let feature = features + i;
      for (let f = 0; f < planes; f++) {
        const away = f32x4.sub(v128.load(feature), v128.load_splat<f32>(look));
        const spreads = f32x4.mul(away, v128.load_splat<f32>(look + 4));
        sum = f32x4.add(sum, f32x4.mul(spreads, spreads));
        feature += plane;
        look += 8;
      }
      nearest = f32x4.pmin(nearest, sum);
    }
    const unlike = f32x4.max(none, f32x4.sub(f32x4.sqrt(nearest), v128.load_splat<f32>(by)));
    const steep = f32x4.max(none, f32x4.sub(v128.load(steepness + i), v128.load_splat<f32>(by + 8)));
    const across = f32x4.mul(v128.load_splat<f32>(by + 4), f32x4.mul(unlike, unlike));
    const over = f32x4.mul(v128.load_splat<f32>(by + 12), steep);
    v128.store(onto + i, f32x4.add(v128.load_splat<f32>(by + 16), f32x4.add(across, over)));
  }
}

/** Brings the ways of a row up to date from the row beside it. */
function enterRow(ways: usize, beside: usize, cost: usize, width: i32): void {
  const last = (<usize>width - 1) << 2;
  enterOne(ways, beside, cost, beside, beside + (width > 1 ? 4 : 0));
  let x: usize = 4;
  for (; x + 16 <= last; x += 16) {
    const price = v128.load(cost + x);
    const straight = f32x4.add(v128.load(beside + x), price);
    const nearer = f32x4.pmin(v128.load(beside + x - 4), v128.load(beside + x + 4));
    const slanted = f32x4.add(nearer, f32x4.mul(price, f32x4.splat(STEEP)));
    v128.store(ways + x, f32x4.pmin(v128.load(ways + x), f32x4.pmin(straight, slanted)));
  }
  for (; x < last; x += 4) enterOne(ways + x, beside + x, cost + x, beside + x - 4, beside + x + 4);
  if (width > 1) enterOne(ways + last, beside + last, cost + last, beside + last - 4, beside + last);
}

function enterOne(way: usize, straight: usize, cost: usize, left: usize, right: usize): void {
  const price = load<f32>(cost);
  let best = least(load<f32>(way), load<f32>(straight) + price);
  // At an end of the row one of the two is the pixel itself, from which straight on is nearer.
  best = least(best, least(load<f32>(left), load<f32>(right)) + price * STEEP);
  store<f32>(way, best);
}

/** None of the two is not a number. */
function least(one: f32, other: f32): f32 {
  return other < one ? other : one;
}

/** Brings the ways of a row up to date along it, there and back. */
function followRow(ways: usize, cost: usize, width: i32): void {
  const end = (<usize>width) << 2;
  let way = v128.load32_zero(ways);
  for (let x: usize = 4; x < end; x += 4) {
    way = f32x4.pmin(f32x4.add(way, v128.load32_zero(cost + x)), v128.load32_zero(ways + x));
    v128.store32_lane(ways + x, way, 0);
  }
  for (let x = end - 4; x >= 4; x -= 4) {
    way = f32x4.pmin(f32x4.add(way, v128.load32_zero(cost + x - 4)), v128.load32_zero(ways + x - 4));
    v128.store32_lane(ways + x - 4, way, 0);
  }
}

/** Brings the cheapest ways up to date by sweeps down and up. (Toivanen 1996.) */
export function sweepWays(ways: usize, cost: usize, width: i32, height: i32, sweeps: i32): void {
  const row = (<usize>width) << 2;
  const end = <usize>height * row;
  for (let sweep = 0; sweep < sweeps; sweep++) {
    for (let y: usize = 0; y < end; y += row) {
      if (y > 0) enterRow(ways + y, ways + y - row, cost + y, width);
      followRow(ways + y, cost + y, width);
    }
    for (let y = end - row; ; y -= row) {
      if (y + row < end) enterRow(ways + y, ways + y + row, cost + y, width);
      followRow(ways + y, cost + y, width);
      if (y === 0) break;
    }
  }
}
