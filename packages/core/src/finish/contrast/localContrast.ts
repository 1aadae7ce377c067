import { blurHeld, blurReach } from '../../filter/gaussian.ts';
import type { Rect } from '../../raster/rect.ts';
import type { ContrastStep } from './contrastStep.ts';
import { VALUE, holding, kernels, layOut } from '../../kernels/kernels.ts';
import type { HeldPlanes } from '../heldPlanes.ts';
import { addToAll, countOf, lumaHeld, narrowHeld } from '../heldPlanes.ts';

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

/** The blocks that a part of the picture meets: they lie the same wherever the part begins. */
const blocksOf = ({ left, top, width, height }: Rect, block: number): Rect => {
  const [firstColumn, firstRow] = [Math.floor(left / block), Math.floor(top / block)];
  return {
    left: firstColumn,
    top: firstRow,
    width: Math.floor((left + width - 1) / block) - firstColumn + 1,
    height: Math.floor((top + height - 1) / block) - firstRow + 1,
  };
};

/** For each pixel along one side: the blocks before and after it, and how far it is on the way between their middles. */
function between(
  first: number,
  length: number,
  firstBlock: number,
  blocks: number,
  block: number,
): [Int32Array, Float32Array] {
  const pairs = new Int32Array(2 * length);
  const ways = new Float32Array(length);
  for (let i = 0; i < length; i++) {
    // Beyond the outermost middles the nearest counts.
    const place = Math.min(blocks - 1, Math.max(0, (first + i + 0.5) / block - 0.5 - firstBlock));
    const before = Math.floor(place);
    pairs[2 * i] = before;
    pairs[2 * i + 1] = Math.min(blocks - 1, before + 1);
    ways[i] = place - before;
  }
  return [pairs, ways];
}

/**
 * What stands out from its surroundings is made stronger, in luma alone; in place. The surroundings are a guided filter
 * of the picture by itself on blocks (He, Sun 2015, the fast guided filter; window Gaussian), which follows strong
 * borders: they get no light and dark seams.
 *
 * @param wanted the part whose surroundings are all there
 * @returns that part alone
 */
export function localContrast({ amount, size }: ContrastStep, held: HeldPlanes, wanted: Rect): HeldPlanes {
  const { rect } = held;
  const { block, sigma } = gridOf(size);
  const blocks = blocksOf(rect, block);
  const { left, top, width, height } = wanted;
  const { blockMeans, groundOf, fromGround } = kernels();
  const bytes = VALUE * blocks.width * blocks.height;
  const room = [VALUE * countOf(held), VALUE * width * height, bytes, bytes];
  return holding(room, (luma, change, mean, square) => {
    lumaHeld(held, luma);
    const [before, above] = [rect.left - block * blocks.left, rect.top - block * blocks.top];
    blockMeans(luma, rect.width, rect.height, before, above, block, mean, square, blocks.width);
    const smooth = (place: number): void => blurHeld(place, place, blocks.width, blocks.height, sigma);
    [mean, square].forEach(smooth);
    groundOf(mean, square, blocks.width * blocks.height, BORDER ** 2);
    [mean, square].forEach(smooth);
    const [across, along, down, aside, mixed] = layOut([
      ...between(left, width, blocks.left, blocks.width, block),
      ...between(top, height, blocks.top, blocks.height, block),
      2 * VALUE * blocks.width,
    ]);
    const first = luma + VALUE * ((top - rect.top) * rect.width + left - rect.left);
    fromGround(
      ...([first, rect.width, change, width, height] as const),
      ...([square, mean, blocks.width, across, along, down, aside, mixed, amount] as const),
    );
    const narrowed = narrowHeld(held, wanted);
    addToAll(narrowed, change);
    return narrowed;
  });
}
