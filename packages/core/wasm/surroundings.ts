// What lies in and around a place that may be a speck. All offsets are bytes, samples are 16-bit numbers up to 32,767.
import { Around, DIRECTIONS } from '../src/kernels/layout';
import { pixelUnder, sampleOf } from './channels';

// For each radius, as 32-bit numbers: bytes to the places in the core, inside and outside the rim, on the ring and on a
// farther one, in every direction; then how many pixels the core has, how many the ring, and where the lists of them lie.
const INSIDE: usize = DIRECTIONS << 2;
const OUTSIDE: usize = DIRECTIONS << 3;
const RING: usize = 3 * (DIRECTIONS << 2);
const FAR_RING: usize = DIRECTIONS << 4;
const CORE_COUNT: usize = 5 * (DIRECTIONS << 2);
const RING_COUNT: usize = CORE_COUNT + 4;
const CORE_PIXELS: usize = CORE_COUNT + 8;
const RING_PIXELS: usize = CORE_COUNT + 12;
const TABLE: usize = CORE_COUNT + 16;

/** Means around, and steps across the rim, in every direction. */
const around: usize = memory.data(DIRECTIONS << 3);
const rims: usize = memory.data(DIRECTIONS << 3);

function write(onto: usize, field: Around, value: f64): void {
  store<f64>(onto + ((<usize>field) << 3), value);
}

function sampleAt(at: usize, table: usize, direction: i32): f64 {
  return <f64>load<u16>(at + load<i32>(table + (direction << 2)));
}

/** Mean of the ring and of the core; spread of the ring about its plane, and the plane's slope over a radius. */
function lookAtRing(at: usize, table: usize, cos: usize, sin: usize, onto: usize): void {
  let ring: f64 = 0;
  let core = <f64>load<u16>(at);
  let waveX: f64 = 0;
  let waveY: f64 = 0;
  for (let k = 0; k < DIRECTIONS; k++) {
    const outer = 0.5 * (sampleAt(at, table + RING, k) + sampleAt(at, table + FAR_RING, k));
    store<f64>(around + (k << 3), outer);
    ring += outer / <f64>DIRECTIONS;
    core += sampleAt(at, table, k);
    waveX += (2 * outer * load<f64>(cos + (k << 3))) / <f64>DIRECTIONS;
    waveY += (2 * outer * load<f64>(sin + (k << 3))) / <f64>DIRECTIONS;
  }
  let squares: f64 = 0;
  for (let k = 0; k < DIRECTIONS; k++) {
    const plane = ring + waveX * load<f64>(cos + (k << 3)) + waveY * load<f64>(sin + (k << 3));
    const off = load<f64>(around + (k << 3)) - plane;
    squares += off * off;
  }
  write(onto, Around.RING, ring);
  write(onto, Around.CORE, core / <f64>(DIRECTIONS + 1));
  write(onto, Around.SPREAD, sqrt(squares / <f64>(DIRECTIONS - 3)));
  write(onto, Around.SLOPE, sqrt(waveX * waveX + waveY * waveY));
}

/**
 * Step across the rim: the least of all directions, the least of two opposite ones together, the share that is above a third
 * of the mean, and the second wave over the mean.
 */
function lookAtRim(at: usize, table: usize, sign: f64, cos: usize, sin: usize, onto: usize): void {
  let mean: f64 = 0;
  let least = f64.MAX_VALUE;
  let cos2: f64 = 0;
  let sin2: f64 = 0;
  for (let k = 0; k < DIRECTIONS; k++) {
    const rim = sign * (sampleAt(at, table + OUTSIDE, k) - sampleAt(at, table + INSIDE, k));
    const c = load<f64>(cos + (k << 3));
    store<f64>(rims + (k << 3), rim);
    mean += rim / <f64>DIRECTIONS;
    least = min(least, rim);
    cos2 += (2 * rim * (2 * c * c - 1)) / <f64>DIRECTIONS;
    sin2 += (2 * rim * 2 * c * load<f64>(sin + (k << 3))) / <f64>DIRECTIONS;
  }
  let weakest = f64.MAX_VALUE;
  for (let k = 0; k < DIRECTIONS >> 1; k++)
    weakest = min(
      weakest,
      0.5 * (load<f64>(rims + (k << 3)) + load<f64>(rims + ((k + (DIRECTIONS >> 1)) << 3))),
    );
  let even: f64 = 0;
  for (let k = 0; k < DIRECTIONS; k++)
    if (load<f64>(rims + (k << 3)) > mean / 3) even += <f64>1 / <f64>DIRECTIONS;
  write(onto, Around.SHALLOWEST, least);
  write(onto, Around.WEAKEST, weakest);
  write(onto, Around.EVEN, even);
  write(onto, Around.OUT_OF_ROUND, sqrt(cos2 * cos2 + sin2 * sin2) / (abs(mean) + 1));
}

/**
 * Mean size of the steps between neighbours within the disc and within the ring, and within the ring of what two steps in a
 * row differ by.
 */
function lookAtTexture(at: usize, stride: usize, table: usize, onto: usize): void {
  const cores = load<i32>(table, CORE_COUNT);
  const corePixels = <usize>load<u32>(table, CORE_PIXELS);
  let core = 0;
  for (let k = 0; k < cores << 2; k += 4) {
    const pixel = at + load<i32>(corePixels + k);
    const here = <i32>load<u16>(pixel);
    core += abs(<i32>load<u16>(pixel + 2) - here) + abs(<i32>load<u16>(pixel + stride) - here);
  }
  const rings = load<i32>(table, RING_COUNT);
  const ringPixels = <usize>load<u32>(table, RING_PIXELS);
  let ring = 0;
  let bend = 0;
  for (let k = 0; k < rings << 2; k += 4) {
    const pixel = at + load<i32>(ringPixels + k);
    const here = <i32>load<u16>(pixel);
    const across = <i32>load<u16>(pixel + 2) - here;
    const down = <i32>load<u16>(pixel + stride) - here;
    ring += abs(across) + abs(down);
    bend +=
      abs(across - here + <i32>load<u16>(pixel - 2)) + abs(down - here + <i32>load<u16>(pixel - stride));
  }
  write(onto, Around.CORE_TEXTURE, <f64>core / <f64>max(1, cores));
  write(onto, Around.RING_TEXTURE, <f64>ring / <f64>max(1, rings));
  write(onto, Around.RING_BEND, <f64>bend / <f64>max(1, rings));
}

/**
 * What lies in and around each of many places.
 *
 * @param centres index of the pixel of each place, `signs` 1 where a dark speck is looked for and -1 for a bright one,
 *   `radii` the number of its table
 * @param tables of the radii, see above
 * @param cos of the directions, 64-bit floats; `sin` alike
 * @param onto for each place what {@link Around} says
 */
export function measureSurroundings(
  data: usize,
  width: i32,
  centres: usize,
  signs: usize,
  radii: usize,
  places: i32,
  tables: usize,
  cos: usize,
  sin: usize,
  onto: usize,
): void {
  const stride: usize = width << 1;
  for (let p = 0; p < places; p++) {
    const at = data + (load<i32>(centres + (p << 2)) << 1);
    const table = tables + <usize>load<i32>(radii + (p << 2)) * TABLE;
    const out = onto + <usize>p * ((<usize>Around.NUMBERS) << 3);
    lookAtRing(at, table, cos, sin, out);
    lookAtRim(at, table, <f64>load<i32>(signs + (p << 2)), cos, sin, out);
    lookAtTexture(at, stride, table, out);
  }
}

/** Numbers of the pixels inside and around a place. */
const inner: usize = memory.data(DIRECTIONS << 2);
const outer: usize = memory.data(DIRECTIONS << 2);

/**
 * What each channel of a picture has inside places and around them.
 *
 * @param channels places of its planes, row after row without gaps, of 16 bits where `isWide`
 * @param discs three 64-bit floats for each place: across, down and radius, in pixels
 * @param core how far from the middle it is looked inside, in radii; `ring` how far around
 * @param onto for each place and channel two 32-bit numbers: the sum of the middle and of sixteen places inside, and that of
 *   sixteen around
 */
export function compareChannels(
  channels: usize,
  channelCount: i32,
  isWide: bool,
  width: i32,
  height: i32,
  discs: usize,
  places: i32,
  core: f64,
  ring: f64,
  cos: usize,
  sin: usize,
  onto: usize,
): void {
  let out = onto;
  for (let p = 0; p < places; p++) {
    const x = load<f64>(discs + p * 24);
    const y = load<f64>(discs + p * 24, 8);
    const r = load<f64>(discs + p * 24, 16);
    for (let k = 0; k < DIRECTIONS; k++) {
      const dx = r * load<f64>(cos + (k << 3));
      const dy = r * load<f64>(sin + (k << 3));
      store<u32>(inner + (k << 2), <u32>pixelUnder(width, height, x + core * dx, y + core * dy));
      store<u32>(outer + (k << 2), <u32>pixelUnder(width, height, x + ring * dx, y + ring * dy));
    }
    const middle = pixelUnder(width, height, x, y);
    for (let c = 0; c < channelCount; c++) {
      const channel = <usize>load<u32>(channels + (c << 2));
      let inside = sampleOf(channel, isWide, middle);
      let outside = 0;
      for (let k = 0; k < DIRECTIONS << 2; k += 4) {
        inside += sampleOf(channel, isWide, <usize>load<u32>(inner + k));
        outside += sampleOf(channel, isWide, <usize>load<u32>(outer + k));
      }
      store<i32>(out, inside);
      store<i32>(out, outside, 4);
      out += 8;
    }
  }
}
