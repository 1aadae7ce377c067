import { kernels, layBehind, layOut, take } from '../../kernels/kernels.ts';
import type { Depth, Raster } from '../../raster/raster.ts';
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

/** Bytes that a plane takes. */
export const lumaBytes = (width: number, height: number): number => 2 * width * height;

export const createLumaPlane = (width: number, height: number): LumaPlane => ({
  width,
  height,
  data: new Uint16Array(width * height),
});

/**
 * Logarithm of the luma of encoded values, by the weights of ITU-R BT.709, in the memory of the kernels.
 *
 * Grey counts as three channels alike.
 *
 * @param channels where one or three planes of samples lie
 */
export function layLogLuma(channels: readonly number[], depth: Depth, onto: number, count: number): void {
  const [table] = layBehind([LOGARITHM]);
  const [red, green = red, blue = red] = channels;
  const { logLuma8, logLuma16 } = kernels();
  (depth === 16 ? logLuma16 : logLuma8)(red, green, blue, onto, count, table);
}

/** The luma of a raster, see {@link layLogLuma}; alpha is left out. */
export function lumaOf({ width, height, stride, depth, planes }: Raster): LumaPlane {
  const kept = colourChannels(planes.length) === 3 ? planes.slice(0, 3) : [planes[0]];
  const bytes = (width * height * depth) / 8;
  const places = layOut([...kept.map(() => bytes), lumaBytes(width, height)]);
  const onto = places[kept.length];
  const { memory } = kernels();
  kept.forEach((plane, c) => {
    const Samples = depth === 16 ? Uint16Array : Uint8Array;
    const laid = new Samples(memory.buffer, places[c], width * height);
    for (let y = 0; y < height; y++) laid.set(plane.subarray(y * stride, y * stride + width), y * width);
  });
  layLogLuma(places.slice(0, kept.length), depth, onto, width * height);
  return { width, height, data: take(Uint16Array, onto, width * height) };
}

/** Halves a plane by the mean of four; an odd side counts its last row or column twice. */
export function halveLuma({ width, height, data }: LumaPlane): LumaPlane {
  const half = { width: (width + 1) >> 1, height: (height + 1) >> 1 };
  const [from, onto] = layOut([data, 2 * half.width * half.height]);
  kernels().halve(from, onto, width, height);
  return { ...half, data: take(Uint16Array, onto, half.width * half.height) };
}

/** Blurs by the binomial of three, across and down: a Gaussian of variance one half. */
export function smoothLuma({ width, height, data }: LumaPlane): LumaPlane {
  const [from, onto, down] = layOut([data, 2 * width * height, 4 * (width + 2)]);
  kernels().smooth(from, onto, width, height, down);
  return { width, height, data: take(Uint16Array, onto, width * height) };
}
