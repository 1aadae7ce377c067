import type { Raster } from '../../raster/raster.ts';
import { fullScale } from '../../raster/raster.ts';
import { WITNESS_PLANES, WITNESS_STEP } from './witness.ts';

/** Log luma is held against the mean and the spread over a square that reaches so far, in pixels. */
const REACH = 18;
/** Added to luma before its logarithm, and to the spread: below it is noise. */
const [DARKEST, CALMEST] = [0.02, 0.02];

const stepped = (side: number): number => WITNESS_STEP * Math.ceil(side / WITNESS_STEP);

/** Sums of all that lies above and to the left, one row and one column more than the values. */
function integral(values: Float32Array, width: number, height: number): Float64Array {
  const sums = new Float64Array((width + 1) * (height + 1));
  for (let y = 0; y < height; y++) {
    let row = 0;
    const [onto, above] = [(y + 1) * (width + 1) + 1, y * (width + 1) + 1];
    for (let x = 0; x < width; x++) {
      row += values[y * width + x];
      sums[onto + x] = sums[above + x] + row;
    }
  }
  return sums;
}

/** Each value less its mean over the square around it, over the spread there; over what there is of it at the border. */
function againstSurroundings(values: Float32Array, width: number, height: number): Float32Array {
  const sums = integral(values, width, height);
  const squares = integral(
    values.map((value) => value * value),
    width,
    height,
  );
  const out = new Float32Array(values.length);
  const stride = width + 1;
  for (let y = 0; y < height; y++) {
    const [top, bottom] = [Math.max(0, y - REACH) * stride, Math.min(height, y + REACH + 1) * stride];
    const rows = (bottom - top) / stride;
    for (let x = 0; x < width; x++) {
      const [left, right] = [Math.max(0, x - REACH), Math.min(width, x + REACH + 1)];
      const count = rows * (right - left);
      const over = (of: Float64Array): number =>
        (of[bottom + right] - of[top + right] - of[bottom + left] + of[top + left]) / count;
      const mean = over(sums);
      const spread = Math.sqrt(Math.max(0, over(squares) - mean * mean)) + CALMEST;
      out[y * width + x] = (values[y * width + x] - mean) / spread;
    }
  }
  return out;
}

/** Planes of a window as a net looks at them, and their sides: those of the window, grown to steps by its last pixels. */
export interface WitnessInput {
  readonly planes: Float32Array;
  readonly width: number;
  readonly height: number;
}

/** @param raster encoded values, 8 or 16 bit, grey or colour */
export function witnessInput(raster: Raster): WitnessInput {
  const [width, height] = [stepped(raster.width), stepped(raster.height)];
  const size = width * height;
  const planes = new Float32Array(WITNESS_PLANES * size);
  const luma = new Float32Array(size);
  const top = fullScale(raster.depth);
  const [red, green, blue] = [0, 1, 2].map((c) => raster.planes[raster.planes.length < 3 ? 0 : c]);
  for (let y = 0, i = 0; y < height; y++) {
    const row = Math.min(raster.height - 1, y) * raster.stride;
    for (let x = 0; x < width; x++, i++) {
      const at = row + Math.min(raster.width - 1, x);
      const [r, g, b] = [red[at] / top, green[at] / top, blue[at] / top];
      planes[i] = 2 * r - 1;
      planes[size + i] = 2 * g - 1;
      planes[2 * size + i] = 2 * b - 1;
      luma[i] = Math.log(0.2126 * r + 0.7152 * g + 0.0722 * b + DARKEST);
    }
  }
  planes.set(againstSurroundings(luma, width, height), 3 * size);
  return { planes, width, height };
}
