import { boxMean } from '../filter/boxMean.ts';
import type { FloatPlane } from '../raster/float.ts';
import { createFloatPlane } from '../raster/float.ts';
import type { GrainModel } from './grainModel.ts';
import { KERNEL_SIDE } from './kernelSide.ts';
import { noiseAt } from './noiseTable.ts';

/** The mask of Immerkaer's noise measure: it answers neither to planes nor to straight edges along the axes. */
const MASK = [1, -2, 1, -2, 4, -2, 1, -2, 1] as const;

/** Energy of the mask's answer to grain of variance 1 with this kernel; 36 for white noise. */
function answerEnergy(kernel: readonly number[]): number {
  const at = (x: number, y: number): number =>
    x < 0 || y < 0 || x >= KERNEL_SIDE || y >= KERNEL_SIDE ? 0 : kernel[y * KERNEL_SIDE + x];
  let energy = 0;
  for (let y = -1; y <= KERNEL_SIDE; y++)
    for (let x = -1; x <= KERNEL_SIDE; x++) {
      let sum = 0;
      for (let k = 0; k < 9; k++) sum += MASK[k] * at(x + (k % 3) - 1, y + Math.floor(k / 3) - 1);
      energy += sum * sum;
    }
  return energy;
}

/**
 * How much of the grain that its brightness lets expect is there, round about each pixel, as a share of variance: 1 is
 * all of it, 0 none; structure of the subject adds to it. (After Immerkaer 1996.)
 *
 * @param luma encoded, 0 to 1
 * @param around how far the square reaches that it is measured over, in pixels
 * @returns a value for each pixel, row after row
 */
export function grainShare(
  luma: FloatPlane,
  { kernel, noise }: Pick<GrainModel, 'kernel' | 'noise'>,
  around: number,
): Float32Array {
  const { width, height, data } = luma;
  const answers = createFloatPlane(width, height);
  for (let y = 0; y < height; y++) {
    const above = Math.max(0, y - 1) * width;
    const row = y * width;
    const below = Math.min(height - 1, y + 1) * width;
    for (let x = 0; x < width; x++) {
      const [left, right] = [Math.max(0, x - 1), Math.min(width - 1, x + 1)];
      const corners = data[above + left] + data[above + right] + data[below + left] + data[below + right];
      const sides = data[above + x] + data[below + x] + data[row + left] + data[row + right];
      answers.data[row + x] = (corners - 2 * sides + 4 * data[row + x]) ** 2;
    }
  }
  const energy = boxMean(answers, around).data;
  const brightness = boxMean(luma, around).data;
  const perVariance = answerEnergy(kernel);
  return energy.map((value, i) => value / (perVariance * noiseAt(noise, brightness[i]) ** 2));
}
