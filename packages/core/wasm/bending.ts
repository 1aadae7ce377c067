// The surface of least bending over lost samples, in up to four planes at once. All places are bytes.

/** Neighbours of a sample in the discrete biharmonic operator: four beside it, four askew, four two steps away. */
const NEIGHBOURS: usize = 12;
const CENTRE: f64 = 20;
const BESIDE: f64 = -8;
const ASKEW: f64 = 2;
/** Bytes of a sample in all four planes: two pairs of 64-bit floats. */
const SAMPLE: usize = 32;

function addAt(sums: v128, values: usize, neighbour: usize, weight: v128): v128 {
  return f64x2.add(sums, f64x2.mul(weight, v128.load(values + <usize>load<i32>(neighbour) * SAMPLE)));
}

/** Applies the operator to one pair of planes; `values` and all else begin at that pair. */
function bend(neighbours: usize, count: i32, held: usize, values: usize, onto: usize): void {
  const centre = f64x2.splat(CENTRE);
  const beside = f64x2.splat(BESIDE);
  const askew = f64x2.splat(ASKEW);
  const one = f64x2.splat(1);
  const end = <usize>count * SAMPLE;
  let near = neighbours;
  for (let at: usize = 0; at < end; at += SAMPLE) {
    let sums = f64x2.mul(f64x2.add(centre, v128.load(held + at)), v128.load(values + at));
    for (let k: usize = 0; k < 16; k += 4) sums = addAt(sums, values, near + k, beside);
    for (let k: usize = 16; k < 32; k += 4) sums = addAt(sums, values, near + k, askew);
    for (let k: usize = 32; k < 48; k += 4) sums = addAt(sums, values, near + k, one);
    v128.store(onto + at, sums);
    near += NEIGHBOURS << 2;
  }
}

function dot(a: usize, b: usize, end: usize): v128 {
  let sums = f64x2.splat(0);
  for (let at: usize = 0; at < end; at += SAMPLE)
    sums = f64x2.add(sums, f64x2.mul(v128.load(a + at), v128.load(b + at)));
  return sums;
}

/** Conjugate gradients on one pair of planes, each for itself: one that is done stays as it is. */
function settlePair(
  neighbours: usize,
  count: i32,
  held: usize,
  values: usize,
  residual: usize,
  direction: usize,
  image: usize,
  rounds: i32,
  share: f64,
): void {
  const end = <usize>count * SAMPLE;
  const zero = f64x2.splat(0);
  for (let at: usize = 0; at < end; at += SAMPLE) v128.store(direction + at, v128.load(residual + at));
  let size = dot(residual, residual, end);
  const enough = f64x2.mul(f64x2.splat(share), size);
  for (let round = 0; round < rounds; round++) {
    const open = f64x2.gt(size, enough);
    if (!v128.any_true(open)) return;
    bend(neighbours, count, held, direction, image);
    const step = v128.bitselect(f64x2.div(size, dot(direction, image, end)), zero, open);
    for (let at: usize = 0; at < end; at += SAMPLE) {
      v128.store(values + at, f64x2.add(v128.load(values + at), f64x2.mul(step, v128.load(direction + at))));
      v128.store(residual + at, f64x2.sub(v128.load(residual + at), f64x2.mul(step, v128.load(image + at))));
    }
    const next = dot(residual, residual, end);
    const turn = v128.bitselect(f64x2.div(next, size), zero, open);
    for (let at: usize = 0; at < end; at += SAMPLE)
      v128.store(
        direction + at,
        f64x2.add(v128.load(residual + at), f64x2.mul(turn, v128.load(direction + at))),
      );
    size = next;
  }
}

/**
 * Brings lost samples to the surface of least bending, by conjugate gradients from where they stand.
 *
 * @param neighbours twelve for each sample: numbers of other lost ones, `count` for one that is known
 * @param held four 64-bit floats for each: how strongly it is held to what it was
 * @param values four 64-bit floats for each, changed in place, and a last one of zeros
 * @param pull what the known samples and what holds them pull each sample by, in the same order; used up
 * @param work room for twice as much
 * @param share of the first residual's energy at which it is enough
 */
export function leastBending(
  neighbours: usize,
  count: i32,
  held: usize,
  values: usize,
  pull: usize,
  work: usize,
  rounds: i32,
  share: f64,
): void {
  const direction = work;
  const image = direction + (<usize>count + 1) * SAMPLE;
  const end = <usize>count * SAMPLE;
  // Of known samples nothing is looked for: their place in the direction stays at zero.
  memory.fill(direction + end, 0, SAMPLE);
  for (let pair: usize = 0; pair < SAMPLE; pair += 16) {
    bend(neighbours, count, held + pair, values + pair, image + pair);
    for (let at = pair; at < end; at += SAMPLE)
      v128.store(pull + at, f64x2.sub(v128.load(pull + at), v128.load(image + at)));
  }
  for (let pair: usize = 0; pair < SAMPLE; pair += 16)
    settlePair(
      neighbours,
      count,
      held + pair,
      values + pair,
      pull + pair,
      direction + pair,
      image + pair,
      rounds,
      share,
    );
}
