import type { Raster } from '../../raster/raster.ts';
import { colourChannels } from '../../raster/raster.ts';

/**
 * The logarithm of encoded luma in whole numbers, row after row without gaps: a shadow or a veil adds the same to it
 * on bright ground and on dark, and whole numbers are fast to walk over.
 */
export interface LumaPlane {
  readonly width: number;
  readonly height: number;
  /** {@link LUMA_STEPS} for each unit of natural logarithm, 0 for black. */
  readonly data: Uint16Array;
}

/** Steps of a unit of natural logarithm. */
export const LUMA_STEPS = 4096;
/** Added to luma of 0 to 1: below it a difference is mostly noise. */
const DARK = 0.012;
/** The luma of full scale before its logarithm is taken. */
const LUMA_ONE = 16_320;

const LOGARITHM = Uint16Array.from({ length: LUMA_ONE + 1 }, (_, luma) =>
  Math.round(LUMA_STEPS * Math.log(1 + luma / LUMA_ONE / DARK)),
);

/** The encoded luma, 0 to 1, that a value of a plane stands for. */
export const lumaAt = (value: number): number => DARK * (Math.exp(value / LUMA_STEPS) - 1);

/** Halvings end before a side falls below this. */
const SMALLEST_SIDE = 32;

export const createLumaPlane = (width: number, height: number): LumaPlane => ({
  width,
  height,
  data: new Uint16Array(width * height),
});

/** Weights of ITU-R BT.709 in 256ths. */
const [RED, GREEN, BLUE] = [54, 183, 19];

/*
 * Every loop over a row stands in a function of its own: called thousands of times it is compiled for the types it
 * sees, several times faster than one loop over the whole plane.
 */

function lumaRow(
  [red, green, blue]: Raster['planes'],
  from: number,
  luma: Uint16Array,
  onto: number,
  count: number,
  scale: number,
): void {
  for (let x = 0; x < count; x++)
    luma[onto + x] =
      LOGARITHM[((RED * red[from + x] + GREEN * green[from + x] + BLUE * blue[from + x]) * scale) | 0];
}

function greyRow(
  grey: Uint8Array | Uint16Array,
  from: number,
  luma: Uint16Array,
  onto: number,
  count: number,
  scale: number,
): void {
  for (let x = 0; x < count; x++) luma[onto + x] = LOGARITHM[(256 * grey[from + x] * scale) | 0];
}

/** Logarithm of the luma of encoded values; alpha is left out. */
export function lumaOf({ width, height, stride, depth, planes }: Raster): LumaPlane {
  const luma = createLumaPlane(width, height);
  // 256 times 255 is 4 times the full luma; 16-bit values stand 257 times as high.
  const scale = depth === 16 ? 0.25 / 257 : 0.25;
  const isColoured = colourChannels(planes.length) === 3;
  for (let y = 0; y < height; y++)
    if (isColoured) lumaRow(planes, y * stride, luma.data, y * width, width, scale);
    else greyRow(planes[0], y * stride, luma.data, y * width, width, scale);
  return luma;
}

function halveRow(
  data: Uint16Array,
  upper: number,
  lower: number,
  half: Uint16Array,
  onto: number,
  count: number,
): void {
  for (let x = 0; x < count; x++) {
    const at = 2 * x;
    half[onto + x] =
      (data[upper + at] + data[upper + at + 1] + data[lower + at] + data[lower + at + 1] + 2) >> 2;
  }
}

/** Halves a plane by the mean of four; an odd side counts its last row or column twice. */
export function halveLuma(plane: LumaPlane): LumaPlane {
  const half = createLumaPlane((plane.width + 1) >> 1, (plane.height + 1) >> 1);
  const { data, width } = plane;
  const whole = width >> 1;
  for (let y = 0; y < half.height; y++) {
    const upper = 2 * y * width;
    const lower = 2 * y + 1 < plane.height ? upper + width : upper;
    halveRow(data, upper, lower, half.data, y * half.width, whole);
    if (whole < half.width)
      half.data[(y + 1) * half.width - 1] = (data[upper + width - 1] + data[lower + width - 1] + 1) >> 1;
  }
  return half;
}

/** The luma of a picture and its halvings, as many as are asked for and the size allows. */
export function lumaLevels(raster: Raster, most: number): LumaPlane[] {
  const levels = [lumaOf(raster)];
  while (levels.length < most) {
    const last = levels[levels.length - 1];
    if (Math.min(last.width, last.height) < 2 * SMALLEST_SIDE) break;
    levels.push(halveLuma(last));
  }
  return levels;
}

function sumDown(
  data: Uint16Array,
  above: number,
  row: number,
  below: number,
  down: Int32Array,
  count: number,
): void {
  for (let x = 0; x < count; x++) down[x] = data[above + x] + 2 * data[row + x] + data[below + x];
}

function sumAcross(down: Int32Array, out: Uint16Array, row: number, count: number): void {
  let before = down[0];
  let here = down[0];
  for (let x = 0; x < count - 1; x++) {
    const after = down[x + 1];
    out[row + x] = (before + 2 * here + after + 8) >> 4;
    before = here;
    here = after;
  }
  out[row + count - 1] = (before + 3 * here + 8) >> 4;
}

/** Blurs by the binomial of three, across and down: a Gaussian of variance one half. */
export function smoothLuma({ width, height, data }: LumaPlane): LumaPlane {
  const smooth = createLumaPlane(width, height);
  const down = new Int32Array(width);
  for (let y = 0; y < height; y++) {
    const row = y * width;
    sumDown(data, y > 0 ? row - width : row, row, y < height - 1 ? row + width : row, down, width);
    sumAcross(down, smooth.data, row, width);
  }
  return smooth;
}
