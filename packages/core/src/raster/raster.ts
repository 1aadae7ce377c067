import type { Transfer } from '../light/transfer.ts';
import { RasterError } from '../errors.ts';
import type { Rect } from './rect.ts';

/** One channel of integer samples, row after row. */
export type Plane = Uint8Array | Uint16Array;

/** Bits of one sample. */
export type Depth = 8 | 16;

/** What is true of a whole picture, whatever part of it is at hand. */
export interface PictureShape {
  readonly width: number;
  readonly height: number;
  readonly depth: Depth;
  /** 1 (grey), 2 (grey, alpha), 3 (colour) or 4 (colour, alpha); alpha is the last plane. */
  readonly channels: number;
  /** What the encoded values of each colour channel mean in light; sRGB where it is missing. */
  readonly transfer?: readonly Transfer[];
}

/**
 * Planar integer pixels in the picture's own encoded values. The sample at column x of row y of a plane is
 * `plane[y * stride + x]`; a stride larger than the width makes the raster a view on a part of another one.
 */
export interface Raster {
  readonly width: number;
  readonly height: number;
  readonly stride: number;
  readonly depth: Depth;
  readonly planes: readonly Plane[];
}

/** The largest sample value: 255 or 65535. */
export const fullScale = (depth: Depth): number => (depth === 8 ? 255 : 65535);

/** Bytes of one sample: 1 at 8 bits, 2 at 16. */
export const bytesPerSample = (depth: Depth): number => depth / 8;

/** How many of the planes carry colour; an alpha plane is carried along and never mended. */
export const colourChannels = (channels: number): number => (channels >= 3 ? 3 : 1);

/**
 * A raster of zeros. Planes lie one after the other in one buffer.
 *
 * @param width whole pixels above 0, as `height` is
 * @param channels 1 (grey), 2 (grey, alpha), 3 (colour) or 4 (colour, alpha)
 * @throws RasterError when a side is not a whole positive number
 */
export function createRaster(width: number, height: number, channels: number, depth: Depth): Raster {
  if (!(Number.isInteger(width) && Number.isInteger(height) && width > 0 && height > 0))
    throw new RasterError(`a raster needs whole positive sides, got ${width} x ${height}`);
  return rasterOver(
    new ArrayBuffer(width * height * channels * bytesPerSample(depth)),
    width,
    height,
    channels,
    depth,
  );
}

/** A raster of zeros in memory that threads share: sent to one it stays the same samples. */
export const createSharedRaster = (width: number, height: number, channels: number, depth: Depth): Raster =>
  rasterOver(
    new SharedArrayBuffer(width * height * channels * bytesPerSample(depth)),
    width,
    height,
    channels,
    depth,
  );

/**
 * Sees a buffer of planar samples (little-endian at 16 bit, like every machine this runs on) as a raster.
 *
 * @param byteOffset where the first plane begins
 * @throws RasterError when the buffer is too small
 */
export function rasterOver(
  buffer: ArrayBufferLike,
  width: number,
  height: number,
  channels: number,
  depth: Depth,
  byteOffset = 0,
): Raster {
  const size = width * height;
  const needed = size * channels * bytesPerSample(depth);
  if (buffer.byteLength - byteOffset < needed)
    throw new RasterError(`${width} x ${height} x ${channels} samples of ${depth} bit need ${needed} bytes`);
  const planes = Array.from({ length: channels }, (_, channel) =>
    depth === 8
      ? new Uint8Array(buffer, byteOffset + channel * size, size)
      : new Uint16Array(buffer, byteOffset + channel * size * 2, size),
  );
  return { width, height, stride: width, depth, planes };
}

/** A part of a raster, sharing its samples. @throws RasterError when the part leaves the raster */
export function viewRaster(raster: Raster, part: Rect): Raster {
  const { left, top, width, height } = part;
  if (left < 0 || top < 0 || left + width > raster.width || top + height > raster.height)
    throw new RasterError(
      `a view of ${width} x ${height} at ${left}, ${top} leaves ${raster.width} x ${raster.height}`,
    );
  const from = top * raster.stride + left;
  return { ...raster, width, height, planes: raster.planes.map((plane) => plane.subarray(from)) };
}

/**
 * Copies all of `from` into `onto` with its upper left pixel at (left, top); what falls outside is left out.
 *
 * @param left whole pixels of `onto`, as `top`; both rasters have the same depth and number of channels
 */
export function copyRaster(from: Raster, onto: Raster, left: number, top: number): void {
  const firstX = Math.max(0, -left);
  const endX = Math.min(from.width, onto.width - left);
  const firstY = Math.max(0, -top);
  const endY = Math.min(from.height, onto.height - top);
  if (endX <= firstX) return;
  for (let channel = 0; channel < onto.planes.length; channel++) {
    const source = from.planes[channel];
    const sink = onto.planes[channel];
    for (let y = firstY; y < endY; y++) {
      const start = y * from.stride;
      sink.set(source.subarray(start + firstX, start + endX), (y + top) * onto.stride + left + firstX);
    }
  }
}

/** A compact copy that shares nothing. */
export function cloneRaster(raster: Raster): Raster {
  const copy = createRaster(raster.width, raster.height, raster.planes.length, raster.depth);
  copyRaster(raster, copy, 0, 0);
  return copy;
}

/** A copy without gaps in memory that threads share. */
export function sharedCopy(raster: Raster): Raster {
  const copy = createSharedRaster(raster.width, raster.height, raster.planes.length, raster.depth);
  copyRaster(raster, copy, 0, 0);
  return copy;
}

/** The raster itself where threads share its memory already, else a copy. */
export const sharedRaster = (raster: Raster): Raster =>
  raster.planes.every(({ buffer }) => buffer instanceof SharedArrayBuffer) ? raster : sharedCopy(raster);
