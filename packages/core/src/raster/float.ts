import type { Raster } from './raster.ts';
import { colourChannels, fullScale } from './raster.ts';

/** One channel of floating samples, row after row without gaps. */
export interface FloatPlane {
  readonly width: number;
  readonly height: number;
  readonly data: Float32Array;
}

export const createFloatPlane = (width: number, height: number): FloatPlane => ({
  width,
  height,
  data: new Float32Array(width * height),
});

/**
 * Luma of encoded values, 0 to 1: the weighted sum of ITU-R BT.709 for colour, the value itself for grey.
 * Alpha is left out.
 */
export function lumaPlane(raster: Raster): FloatPlane {
  const luma = createFloatPlane(raster.width, raster.height);
  const scale = 1 / fullScale(raster.depth);
  const { data } = luma;
  const [first, second, third] = raster.planes;
  const coloured = colourChannels(raster.planes.length) === 3;
  for (let y = 0; y < raster.height; y++) {
    const row = y * raster.stride;
    const out = y * raster.width;
    if (coloured) {
      for (let x = 0; x < raster.width; x++)
        data[out + x] =
          (0.2126 * first[row + x] + 0.7152 * second[row + x] + 0.0722 * third[row + x]) * scale;
    } else {
      for (let x = 0; x < raster.width; x++) data[out + x] = first[row + x] * scale;
    }
  }
  return luma;
}

/** Halves a float plane by area, as {@link halveRaster} does for integers, without rounding. */
export function halveFloat(plane: FloatPlane): FloatPlane {
  const width = Math.ceil(plane.width / 2);
  const height = Math.ceil(plane.height / 2);
  const half = createFloatPlane(width, height);
  const { data } = plane;
  for (let y = 0; y < height; y++) {
    const upper = 2 * y * plane.width;
    const lower = Math.min(2 * y + 1, plane.height - 1) * plane.width;
    for (let x = 0; x < width; x++) {
      const right = Math.min(2 * x + 1, plane.width - 1);
      half.data[y * width + x] =
        0.25 * (data[upper + 2 * x] + data[upper + right] + data[lower + 2 * x] + data[lower + right]);
    }
  }
  return half;
}
