import { boxMean } from '../../filter/boxMean.ts';
import { LUMA } from '../../light/luma.ts';
import type { FloatPlane } from '../../raster/float.ts';
import type { Raster } from '../../raster/raster.ts';
import { fullScale } from '../../raster/raster.ts';
import { WITNESS_PLANES, WITNESS_STEP } from './witness.ts';

/** Log luma is held against the mean and the spread over a square that reaches so far, in pixels. */
const REACH = 18;
/** Added to luma before its logarithm, and to the spread: below it is noise. */
const [DARKEST, CALMEST] = [0.02, 0.02];

const stepped = (side: number): number => WITNESS_STEP * Math.ceil(side / WITNESS_STEP);

/** Each value less its mean over the square around it, over the spread there; over what there is of it at the border. */
function againstSurroundings(values: FloatPlane): Float32Array {
  const { data } = values;
  const means = boxMean(values, REACH).data;
  const squares = boxMean({ ...values, data: data.map((value) => value * value) }, REACH).data;
  return data.map((value, i) => {
    const spread = Math.sqrt(Math.max(0, squares[i] - means[i] * means[i])) + CALMEST;
    return (value - means[i]) / spread;
  });
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
      luma[i] = Math.log(LUMA[0] * r + LUMA[1] * g + LUMA[2] * b + DARKEST);
    }
  }
  planes.set(againstSurroundings({ width, height, data: luma }), 3 * size);
  return { planes, width, height };
}
