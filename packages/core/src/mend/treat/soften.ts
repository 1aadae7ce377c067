import { gaussianBlur } from '../../filter/gaussian.ts';
import type { Rect } from '../../raster/rect.ts';
import { colourFloats } from '../patch.ts';
import type { Ground } from './ground.ts';
import type { SoftenMend } from './treatment.ts';

/** How far a soften looks around, in pixels. */
export const softenReach = ({ sigma }: SoftenMend): number => Math.ceil(3.5 * sigma) + 2;

/** The mean along a line through each pixel, weighed by a Gaussian; between pixels straight. */
function alongLine(data: Float32Array, width: number, sigma: number, angle: number): Float32Array {
  const height = data.length / width;
  const reach = Math.ceil(3.5 * sigma);
  const weights = Array.from({ length: 2 * reach + 1 }, (_, k) =>
    Math.exp(-((k - reach) ** 2) / (2 * sigma * sigma)),
  );
  const total = weights.reduce((sum, weight) => sum + weight, 0);
  const out = new Float32Array(data.length);
  weights.forEach((weight, k) => {
    const [dx, dy] = [(k - reach) * Math.cos(angle), (k - reach) * Math.sin(angle)];
    const [wholeX, wholeY] = [Math.floor(dx), Math.floor(dy)];
    const [ax, ay] = [dx - wholeX, dy - wholeY];
    const share = weight / total;
    for (let y = 0; y < height; y++) {
      const upper = Math.min(height - 1, Math.max(0, y + wholeY)) * width;
      const lower = Math.min(height - 1, Math.max(0, y + wholeY + 1)) * width;
      for (let x = 0; x < width; x++) {
        const left = Math.min(width - 1, Math.max(0, x + wholeX));
        const right = Math.min(width - 1, Math.max(0, x + wholeX + 1));
        out[y * width + x] +=
          share *
          ((1 - ay) * ((1 - ax) * data[upper + left] + ax * data[upper + right]) +
            ay * ((1 - ax) * data[lower + left] + ax * data[lower + right]));
      }
    }
  });
  return out;
}

/** Blurs with a Gaussian, evenly or along one direction. Works on encoded values, as paint is smeared. */
export function soften(mend: SoftenMend, { raster, rect: whole }: Ground, rect: Rect): Float32Array[] {
  const { width, height } = raster;
  return colourFloats(raster).map((data) => {
    const blurred =
      mend.along === null
        ? gaussianBlur({ width, height, data }, mend.sigma).data
        : alongLine(data, width, mend.sigma, mend.along);
    const out = new Float32Array(rect.width * rect.height);
    for (let y = 0; y < rect.height; y++) {
      const from = (rect.top + y - whole.top) * width + rect.left - whole.left;
      out.set(blurred.subarray(from, from + rect.width), y * rect.width);
    }
    return out;
  });
}
