// Convolutions of 3 x 3 places, the layers of a small net. Samples lie place after place, all channels of a place together,
// with a border of one place on each side that is 0; weights lie place after place, channels in, channels out. The channels
// that come out are a multiple of twelve, the places of a row a multiple of three: three places and twelve channels are
// worked at together, as many sums as there is room for.

/** A sum and twelve floats of a row, weighed. */
function withWeighed(sum: v128, by: v128, at: usize, offset: usize): v128 {
  return f32x4.add(sum, f32x4.mul(by, v128.load(at + offset)));
}

/**
 * Convolves a square.
 *
 * @param input with its border, `side + 2` places a row, of `inside` channels
 * @param bias one for each channel that comes out
 * @param onto where the first place comes to lie, `columns` places a row, of `outside` channels
 * @param least what comes out is at least this: 0 of a rectified layer
 */
export function convolve(
  input: usize,
  side: i32,
  inside: i32,
  weights: usize,
  bias: usize,
  outside: i32,
  onto: usize,
  columns: i32,
  least: f32,
): void {
  const place: usize = inside << 2;
  const row: usize = (side + 2) * place;
  const out: usize = outside << 2;
  const bound = f32x4.splat(least);
  // The three places of a row under the kernel lie one after the other.
  const taps = 3 * inside;
  for (let y = 0; y < side; y++)
    for (let x = 0; x < side; x += 3)
      for (let o: usize = 0; o < out; o += 48) {
        let a0 = v128.load(bias + o);
        let a1 = v128.load(bias + o, 16);
        let a2 = v128.load(bias + o, 32);
        let b0 = a0;
        let b1 = a1;
        let b2 = a2;
        let c0 = a0;
        let c1 = a1;
        let c2 = a2;
        let w = weights + o;
        let from = input + y * row + x * place;
        for (let line = 0; line < 3; line++) {
          let at = from;
          for (let k = 0; k < taps; k++) {
            const w0 = v128.load(w);
            const w1 = v128.load(w, 16);
            const w2 = v128.load(w, 32);
            const a = v128.load_splat<f32>(at);
            const b = v128.load_splat<f32>(at + place);
            const c = v128.load_splat<f32>(at + 2 * place);
            a0 = f32x4.add(a0, f32x4.mul(a, w0));
            a1 = f32x4.add(a1, f32x4.mul(a, w1));
            a2 = f32x4.add(a2, f32x4.mul(a, w2));
            b0 = f32x4.add(b0, f32x4.mul(b, w0));
            b1 = f32x4.add(b1, f32x4.mul(b, w1));
            b2 = f32x4.add(b2, f32x4.mul(b, w2));
            c0 = f32x4.add(c0, f32x4.mul(c, w0));
            c1 = f32x4.add(c1, f32x4.mul(c, w1));
            c2 = f32x4.add(c2, f32x4.mul(c, w2));
            at += 4;
            w += out;
          }
          from += row;
        }
        const to = onto + (y * columns + x) * out + o;
        v128.store(to, f32x4.pmax(a0, bound));
        v128.store(to, f32x4.pmax(a1, bound), 16);
        v128.store(to, f32x4.pmax(a2, bound), 32);
        v128.store(to + out, f32x4.pmax(b0, bound));
        v128.store(to + out, f32x4.pmax(b1, bound), 16);
        v128.store(to + out, f32x4.pmax(b2, bound), 32);
        v128.store(to + 2 * out, f32x4.pmax(c0, bound));
        v128.store(to + 2 * out, f32x4.pmax(c1, bound), 16);
        v128.store(to + 2 * out, f32x4.pmax(c2, bound), 32);
      }
}

/**
 * How much a loss changes with each weight of a convolution: what comes in, times how much the loss changes with what comes
 * out, over all places. For training alone.
 *
 * @param slopes of the loss, `columns` places a row, of `outside` channels
 * @param onto as large as the weights
 */
export function slopesOfWeights(
  input: usize,
  side: i32,
  inside: i32,
  slopes: usize,
  columns: i32,
  outside: i32,
  onto: usize,
): void {
  const place: usize = inside << 2;
  const row: usize = (side + 2) * place;
  const out: usize = outside << 2;
  const taps = 3 * inside;
  for (let line = 0; line < 3; line++)
    for (let k = 0; k < taps; k += 3)
      for (let o: usize = 0; o < out; o += 48) {
        let a0 = f32x4.splat(0);
        let a1 = a0;
        let a2 = a0;
        let b0 = a0;
        let b1 = a0;
        let b2 = a0;
        let c0 = a0;
        let c1 = a0;
        let c2 = a0;
        for (let y = 0; y < side; y++) {
          let at = input + (y + line) * row + (k << 2);
          let slope = slopes + y * columns * out + o;
          for (let x = 0; x < side; x++) {
            const a = v128.load_splat<f32>(at);
            const b = v128.load_splat<f32>(at + 4);
            const c = v128.load_splat<f32>(at + 8);
            a0 = withWeighed(a0, a, slope, 0);
            a1 = withWeighed(a1, a, slope, 16);
            a2 = withWeighed(a2, a, slope, 32);
            b0 = withWeighed(b0, b, slope, 0);
            b1 = withWeighed(b1, b, slope, 16);
            b2 = withWeighed(b2, b, slope, 32);
            c0 = withWeighed(c0, c, slope, 0);
            c1 = withWeighed(c1, c, slope, 16);
            c2 = withWeighed(c2, c, slope, 32);
            at += place;
            slope += out;
          }
        }
        const to = onto + (line * taps + k) * out + o;
        v128.store(to, a0);
        v128.store(to, a1, 16);
        v128.store(to, a2, 32);
        v128.store(to + out, b0);
        v128.store(to + out, b1, 16);
        v128.store(to + out, b2, 32);
        v128.store(to + 2 * out, c0);
        v128.store(to + 2 * out, c1, 16);
        v128.store(to + 2 * out, c2, 32);
      }
}

/**
 * The largest of every two by two places, channel by channel.
 *
 * @param from `side` places a row, an even number, of `channels`, a multiple of four
 * @param onto where the first place comes to lie, `columns` places a row
 */
export function largestOfFour(from: usize, side: i32, channels: i32, onto: usize, columns: i32): void {
  const place: usize = channels << 2;
  const row: usize = side * place;
  for (let y = 0; y < side; y += 2)
    for (let x = 0; x < side; x += 2) {
      const at = from + y * row + x * place;
      const to = onto + ((y >> 1) * columns + (x >> 1)) * place;
      for (let c: usize = 0; c < place; c += 16) {
        const above = f32x4.pmax(v128.load(at + c), v128.load(at + place + c));
        const below = f32x4.pmax(v128.load(at + row + c), v128.load(at + row + place + c));
        v128.store(to + c, f32x4.pmax(above, below));
      }
    }
}

/**
 * How much a loss changes with each of the places that the largest were taken of: as much as with the largest, if that is
 * above 0, at the first that is as large, and not at all at the others.
 *
 * @param values as they were taken from, `slopes` one for each largest
 * @param onto where the first place comes to lie, `columns` places a row
 */
export function slopesOfFour(
  values: usize,
  side: i32,
  channels: i32,
  slopes: usize,
  onto: usize,
  columns: i32,
): void {
  const place: usize = channels << 2;
  const row: usize = side * place;
  const line: usize = columns * place;
  const none = f32x4.splat(0);
  let slope = slopes;
  for (let y = 0; y < side; y += 2)
    for (let x = 0; x < side; x += 2) {
      const at = values + y * row + x * place;
      const to = onto + y * line + x * place;
      for (let c: usize = 0; c < place; c += 16) {
        const a = v128.load(at + c);
        const b = v128.load(at + place + c);
        const d = v128.load(at + row + c);
        const e = v128.load(at + row + place + c);
        const most = f32x4.pmax(f32x4.pmax(a, b), f32x4.pmax(d, e));
        let left = v128.and(v128.load(slope), f32x4.gt(most, none));
        slope += 16;
        const isA = f32x4.eq(a, most);
        v128.store(to + c, v128.and(left, isA));
        left = v128.andnot(left, isA);
        const isB = f32x4.eq(b, most);
        v128.store(to + place + c, v128.and(left, isB));
        left = v128.andnot(left, isB);
        const isD = f32x4.eq(d, most);
        v128.store(to + line + c, v128.and(left, isD));
        left = v128.andnot(left, isD);
        v128.store(to + line + place + c, v128.and(left, f32x4.eq(e, most)));
      }
    }
}

/**
 * All inputs weighed and added up for each output.
 *
 * @param weights those of an input for all outputs one after the other
 * @param bias one for each output
 * @param outputs a multiple of four
 */
export function weighInputs(
  inputs: usize,
  count: i32,
  weights: usize,
  bias: usize,
  outputs: i32,
  onto: usize,
): void {
  const line = (<usize>outputs) << 2;
  const end = inputs + ((<usize>count) << 2);
  for (let o: usize = 0; o < line; o += 16) {
    let sum = v128.load(bias + o);
    let weight = weights + o;
    for (let at = inputs; at < end; at += 4) {
      sum = withWeighed(sum, v128.load_splat<f32>(at), weight, 0);
      weight += line;
    }
    v128.store(onto + o, sum);
  }
}

/** Sums of all places, channel by channel. @param channels a multiple of four */
export function sumOfPlaces(from: usize, places: i32, channels: i32, onto: usize): void {
  const place: usize = channels << 2;
  for (let c: usize = 0; c < place; c += 16) {
    let sum = f32x4.splat(0);
    let at = from + c;
    for (let k = 0; k < places; k++) {
      sum = f32x4.add(sum, v128.load(at));
      at += place;
    }
    v128.store(onto + c, sum);
  }
}
