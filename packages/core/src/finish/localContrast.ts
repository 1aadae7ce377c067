import type { FloatPlane } from '../raster/float.ts';
import { createFloatPlane } from '../raster/float.ts';
import { blurReach, gaussianBlur } from '../filter/gaussian.ts';
import type { ContrastStep } from './finishStep.ts';
import { addToAll, lumaOf } from './lumaOf.ts';

/** Borders stronger than this are kept whole in the ground, so that no light runs along them; of 0 to 1. */
const BORDER = 0.08;
/** The ground is worked out on blocks; a window spans at least so many of them. */
const FINEST_SIGMA = 2;

/** Side of the blocks, in pixels, and the standard deviation of the window in blocks. */
function gridOf(size: number): { block: number; sigma: number } {
  const wanted = size / 2;
  const block = 2 ** Math.max(0, Math.floor(Math.log2(wanted / FINEST_SIGMA)));
  return { block, sigma: Math.max(0.5, wanted / block) };
}

/** How far a step looks around, in pixels. */
export function contrastReach({ size }: ContrastStep): number {
  const { block, sigma } = gridOf(size);
  return (2 * blurReach(sigma) + 3) * block;
}

/** Means over blocks that lie the same wherever the plane begins; (left, top) is its place in the picture. */
function blockMeans(
  { width, height, data }: FloatPlane,
  left: number,
  top: number,
  block: number,
  at: (value: number) => number,
): FloatPlane {
  const [firstColumn, firstRow] = [Math.floor(left / block), Math.floor(top / block)];
  const columns = Math.floor((left + width - 1) / block) - firstColumn + 1;
  const rows = Math.floor((top + height - 1) / block) - firstRow + 1;
  const out = createFloatPlane(columns, rows);
  const counts = new Uint32Array(columns * rows);
  for (let y = 0; y < height; y++) {
    const row = (Math.floor((top + y) / block) - firstRow) * columns;
    for (let x = 0; x < width; x++) {
      const cell = row + Math.floor((left + x) / block) - firstColumn;
      out.data[cell] += at(data[y * width + x]);
      counts[cell]++;
    }
  }
  for (let i = 0; i < counts.length; i++) out.data[i] /= counts[i];
  return out;
}

/** Reads a plane of blocks between their middles; beyond the outermost middles the nearest counts. */
function readBlocks({ width, height, data }: FloatPlane, x: number, y: number): number {
  const [px, py] = [Math.min(width - 1, Math.max(0, x)), Math.min(height - 1, Math.max(0, y))];
  const [column, row] = [Math.min(width - 1, Math.floor(px)), Math.min(height - 1, Math.floor(py))];
  const [right, below] = [Math.min(width - 1, column + 1), Math.min(height - 1, row + 1)];
  const [u, v] = [px - column, py - row];
  return (
    (1 - v) * ((1 - u) * data[row * width + column] + u * data[row * width + right]) +
    v * ((1 - u) * data[below * width + column] + u * data[below * width + right])
  );
}

/**
 * What stands out from its surroundings is made stronger, in luma alone. The surroundings are a guided filter of the
 * picture by itself on blocks (He, Sun 2015, the fast guided filter; window Gaussian), which follows strong borders:
 * they get no light and dark seams.
 *
 * @param planes encoded values, 0 to 1
 * @param place the first pixel's place in the picture
 */
export function localContrast(
  { amount, size }: ContrastStep,
  planes: readonly Float32Array[],
  place: { readonly left: number; readonly top: number; readonly width: number; readonly height: number },
): Float32Array[] {
  const { left, top, width, height } = place;
  const luma = { width, height, data: lumaOf(planes) };
  const { block, sigma } = gridOf(size);
  const mean = gaussianBlur(
    blockMeans(luma, left, top, block, (value) => value),
    sigma,
  );
  const square = gaussianBlur(
    blockMeans(luma, left, top, block, (value) => value * value),
    sigma,
  );
  const slope = createFloatPlane(mean.width, mean.height);
  const offset = createFloatPlane(mean.width, mean.height);
  for (let i = 0; i < slope.data.length; i++) {
    const variance = Math.max(0, square.data[i] - mean.data[i] ** 2);
    slope.data[i] = variance / (variance + BORDER ** 2);
    offset.data[i] = (1 - slope.data[i]) * mean.data[i];
  }
  const [slopes, offsets] = [gaussianBlur(slope, sigma), gaussianBlur(offset, sigma)];
  const [firstColumn, firstRow] = [Math.floor(left / block), Math.floor(top / block)];
  const change = new Float32Array(width * height);
  for (let y = 0, i = 0; y < height; y++) {
    const row = (top + y + 0.5) / block - 0.5 - firstRow;
    for (let x = 0; x < width; x++, i++) {
      const column = (left + x + 0.5) / block - 0.5 - firstColumn;
      const ground = readBlocks(slopes, column, row) * luma.data[i] + readBlocks(offsets, column, row);
      change[i] = amount * (luma.data[i] - ground);
    }
  }
  return addToAll(planes, change);
}
