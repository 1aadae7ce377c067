import { labPlanes } from '../../colour/labPlanes.ts';
import { boxMean } from '../../filter/boxMean.ts';
import type { PictureShape, Raster } from '../../raster/raster.ts';

/** What makes one place of a picture like another, measured on a level small enough to be looked through at once. */
export interface LikenessPlanes {
  readonly width: number;
  readonly height: number;
  /** Lightness, a and b, smoothed; and the logarithm of how rough it is round about. */
  readonly features: readonly Float32Array[];
  /** How steep the colour is, in steps of L*a*b* a pixel. */
  readonly steepness: Float32Array;
}

/** Colour is the mean over a square that reaches this far, so that grain is no difference. */
const SMOOTHED = 1;
/** Roughness is that of a square that reaches this far, in pixels. */
const ROUGH_OVER = 3;
/** Deviation of lightness below which all is equally smooth: less than what is seen. */
const SMOOTH = 0.4;

/** @param raster a level of the whole picture @param transfer what its values mean in light */
export function likenessPlanes(raster: Raster, transfer?: PictureShape['transfer']): LikenessPlanes {
  const { width, height } = raster;
  const lab = labPlanes(raster, transfer);
  const mean = (data: Float32Array, radius: number): Float32Array =>
    boxMean({ width, height, data }, radius).data;
  const smooth = lab.map((plane) => mean(plane, SMOOTHED));
  const around = mean(lab[0], ROUGH_OVER);
  const squares = mean(
    lab[0].map((value) => value * value),
    ROUGH_OVER,
  );
  const roughness = around.map((value, i) =>
    Math.log(SMOOTH + Math.sqrt(Math.max(0, squares[i] - value * value))),
  );
  return {
    ...{ width, height },
    features: [...smooth, roughness],
    steepness: steepnessOf(smooth, width, height),
  };
}

function steepnessOf(planes: readonly Float32Array[], width: number, height: number): Float32Array {
  const steepness = new Float32Array(width * height);
  for (let y = 0, i = 0; y < height; y++)
    for (let x = 0; x < width; x++, i++) {
      const [left, right] = [x > 0 ? i - 1 : i, x < width - 1 ? i + 1 : i];
      const [above, below] = [y > 0 ? i - width : i, y < height - 1 ? i + width : i];
      let sum = 0;
      for (const plane of planes)
        sum += (plane[right] - plane[left]) ** 2 + (plane[below] - plane[above]) ** 2;
      steepness[i] = Math.sqrt(sum) / 2;
    }
  return steepness;
}
