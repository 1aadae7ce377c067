import type { Rect } from '../raster/rect.ts';
import { growRect } from '../raster/rect.ts';
import type { GrainModel } from './grainModel.ts';
import { KERNEL_SIDE } from './kernelSide.ts';
import { hashNoise } from './hashNoise.ts';

/** Runs white noise on a grown rectangle through the kernel. */
function shaped(kernel: readonly number[], rect: Rect, seed: number): Float32Array {
  const half = (KERNEL_SIDE - 1) / 2;
  const wide = growRect(rect, half);
  const white = new Float32Array(wide.width * wide.height);
  for (let y = 0, i = 0; y < wide.height; y++)
    for (let x = 0; x < wide.width; x++, i++) white[i] = hashNoise(wide.left + x, wide.top + y, seed);
  const out = new Float32Array(rect.width * rect.height);
  kernel.forEach((weight, k) => {
    // Most of a grain's kernel is next to nothing: what is left out is a ten-thousandth of its energy.
    if (Math.abs(weight) < NEGLIGIBLE) return;
    const [kx, ky] = [k % KERNEL_SIDE, Math.floor(k / KERNEL_SIDE)];
    for (let y = 0; y < rect.height; y++) {
      const from = (y + ky) * wide.width + kx;
      const onto = y * rect.width;
      for (let x = 0; x < rect.width; x++) out[onto + x] += weight * white[from + x];
    }
  });
  return out;
}

const NEGLIGIBLE = 6e-4;

/**
 * Grain of a model on a rectangle of the picture, one plane for each colour channel; its luma has deviation 1. The same
 * place and seed give the same grain, whatever rectangle is asked for.
 */
export function grainNoise({ kernel, mix }: GrainModel, rect: Rect, seed: number): Float32Array[] {
  const own = mix.map((_, c) => shaped(kernel, rect, (seed + Math.imul(c + 1, 0x51ed270b)) >>> 0));
  return mix.map((row) => {
    const plane = new Float32Array(rect.width * rect.height);
    row.forEach((amount, k) => {
      for (let i = 0; i < plane.length; i++) plane[i] += amount * own[k][i];
    });
    return plane;
  });
}
