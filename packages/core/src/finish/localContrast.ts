import type { FloatPlane } from '../raster/float.ts';
import { createFloatPlane } from '../raster/float.ts';
import { blurReach, gaussianBlur } from '../filter/gaussian.ts';
import type { Rect } from '../raster/rect.ts';
import type { ContrastStep } from './finishStep.ts';
import { weightedLuma } from '../colour/luma.ts';
import { addToAll } from './addToAll.ts';

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

/** Where a plane lies in the picture. */
type Place = Pick<Rect, 'left' | 'top' | 'width' | 'height'>;

/** The blocks that a part of the picture meets: they lie the same wherever the part begins. */
const blocksOf = ({ left, top, width, height }: Place, block: number): Rect => {
  const [firstColumn, firstRow] = [Math.floor(left / block), Math.floor(top / block)];
  return {
    left: firstColumn,
    top: firstRow,
    width: Math.floor((left + width - 1) / block) - firstColumn + 1,
    height: Math.floor((top + height - 1) / block) - firstRow + 1,
  };
};

/** Means of the values and of their squares over blocks. */
function blockMeans(
  luma: Float32Array,
  place: Place,
  block: number,
): { mean: FloatPlane; square: FloatPlane } {
  const { left, top, width, height } = place;
  const blocks = blocksOf(place, block);
  const mean = createFloatPlane(blocks.width, blocks.height);
  const square = createFloatPlane(blocks.width, blocks.height);
  const counts = new Uint32Array(mean.data.length);
  for (let y = 0; y < height; y++) {
    const row = (Math.floor((top + y) / block) - blocks.top) * blocks.width - blocks.left;
    for (let x = 0; x < width;) {
      const column = Math.floor((left + x) / block);
      const end = Math.min(width, (column + 1) * block - left);
      let [sum, squares] = [0, 0];
      for (let i = y * width + x; i < y * width + end; i++) {
        sum += luma[i];
        squares += luma[i] * luma[i];
      }
      mean.data[row + column] += sum;
      square.data[row + column] += squares;
      counts[row + column] += end - x;
      x = end;
    }
  }
  for (let i = 0; i < counts.length; i++) {
    mean.data[i] /= counts[i];
    square.data[i] /= counts[i];
  }
  return { mean, square };
}

/** For each pixel along one side: the block before it, the one after, and how far it is on the way between their middles. */
function between(first: number, length: number, firstBlock: number, blocks: number, block: number) {
  const before = new Int32Array(length);
  const after = new Int32Array(length);
  const way = new Float32Array(length);
  for (let i = 0; i < length; i++) {
    // Beyond the outermost middles the nearest counts.
    const place = Math.min(blocks - 1, Math.max(0, (first + i + 0.5) / block - 0.5 - firstBlock));
    before[i] = Math.floor(place);
    after[i] = Math.min(blocks - 1, before[i] + 1);
    way[i] = place - before[i];
  }
  return { before, after, way };
}

/** One row of blocks at the height of a pixel. */
function rowBetween(plane: FloatPlane, before: number, after: number, way: number, onto: Float32Array): void {
  const { width, data } = plane;
  const [upper, lower] = [before * width, after * width];
  for (let x = 0; x < width; x++) onto[x] = data[upper + x] + way * (data[lower + x] - data[upper + x]);
}

/**
 * What stands out from its surroundings is made stronger, in luma alone. The surroundings are a guided filter of the
 * picture by itself on blocks (He, Sun 2015, the fast guided filter; window Gaussian), which follows strong borders:
 * they get no light and dark seams.
 *
 * @param planes encoded values, 0 to 1
 * @param place the first pixel's place in the picture
 * @param wanted the part whose surroundings are all there; beyond it nothing is changed
 */
export function localContrast(
  { amount, size }: ContrastStep,
  planes: readonly Float32Array[],
  place: Place,
  wanted: Place,
): Float32Array[] {
  const { left, top, width, height } = place;
  const luma = weightedLuma(planes);
  const { block, sigma } = gridOf(size);
  const means = blockMeans(luma, place, block);
  const [mean, square] = [gaussianBlur(means.mean, sigma), gaussianBlur(means.square, sigma)];
  const slope = createFloatPlane(mean.width, mean.height);
  const offset = createFloatPlane(mean.width, mean.height);
  for (let i = 0; i < slope.data.length; i++) {
    const variance = Math.max(0, square.data[i] - mean.data[i] ** 2);
    slope.data[i] = variance / (variance + BORDER ** 2);
    offset.data[i] = (1 - slope.data[i]) * mean.data[i];
  }
  const [slopes, offsets] = [gaussianBlur(slope, sigma), gaussianBlur(offset, sigma)];
  const blocks = blocksOf(place, block);
  const across = between(left, width, blocks.left, blocks.width, block);
  const down = between(top, height, blocks.top, blocks.height, block);
  const slopeRow = new Float32Array(blocks.width);
  const offsetRow = new Float32Array(blocks.width);
  const change = new Float32Array(width * height);
  const [firstX, firstY] = [wanted.left - left, wanted.top - top];
  for (let y = firstY; y < firstY + wanted.height; y++) {
    rowBetween(slopes, down.before[y], down.after[y], down.way[y], slopeRow);
    rowBetween(offsets, down.before[y], down.after[y], down.way[y], offsetRow);
    for (let x = firstX, i = y * width + firstX; x < firstX + wanted.width; x++, i++) {
      const [b, a, t] = [across.before[x], across.after[x], across.way[x]];
      const steep = slopeRow[b] + t * (slopeRow[a] - slopeRow[b]);
      const level = offsetRow[b] + t * (offsetRow[a] - offsetRow[b]);
      change[i] = amount * (luma[i] - steep * luma[i] - level);
    }
  }
  return addToAll(planes, change);
}
