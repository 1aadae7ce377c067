import { gaussianBlur } from '../../../filter/gaussian.ts';
import { clear, kernels, layOut, takeFloats } from '../../../kernels/kernels.ts';
import type { Rect } from '../../../raster/rect.ts';
import { colourFloats } from '../../../raster/patch.ts';
import type { Ground } from '../ground.ts';
import type { SoftenMend } from './softenMend.ts';

/** How far a soften looks around, in pixels. */
export const softenReach = ({ sigma }: SoftenMend): number => Math.ceil(3.5 * sigma) + 2;

/** A plane with its nearest samples laid around it, so many on each side. */
function padded(data: Float32Array, width: number, by: number): Float32Array {
  const height = data.length / width;
  const stride = width + 2 * by;
  const out = new Float32Array(stride * (height + 2 * by) + by);
  for (let y = 0; y < height + 2 * by; y++) {
    const from = Math.min(height - 1, Math.max(0, y - by)) * width;
    const row = y * stride;
    out.fill(data[from], row, row + by);
    out.set(data.subarray(from, from + width), row + by);
    out.fill(data[from + width - 1], row + by + width, row + stride);
  }
  return out;
}

/** The mean along a line through each pixel, weighed by a Gaussian; between pixels straight. */
function alongLine(data: Float32Array, width: number, sigma: number, angle: number): Float32Array {
  const reach = Math.ceil(3.5 * sigma);
  const weights = Array.from({ length: 2 * reach + 1 }, (_, k) =>
    Math.exp(-((k - reach) ** 2) / (2 * sigma * sigma)),
  );
  const total = weights.reduce((sum, weight) => sum + weight, 0);
  const by = reach + 2;
  const stride = width + 2 * by;
  const [from, onto] = layOut([padded(data, width, by), data.byteLength]);
  clear(onto, data.byteLength);
  weights.forEach((weight, k) => {
    const [dx, dy] = [(k - reach) * Math.cos(angle), (k - reach) * Math.sin(angle)];
    const [wholeX, wholeY] = [Math.floor(dx), Math.floor(dy)];
    const [ax, ay] = [dx - wholeX, dy - wholeY];
    const share = weight / total;
    kernels().addBetween(
      from + Float32Array.BYTES_PER_ELEMENT * ((by + wholeY) * stride + by + wholeX),
      Float32Array.BYTES_PER_ELEMENT * stride,
      ...([onto, width, data.length / width] as const),
      ...([share * (1 - ay) * (1 - ax), share * (1 - ay) * ax] as const),
      ...([share * ay * (1 - ax), share * ay * ax] as const),
    );
  });
  return takeFloats(onto, data.length);
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
