import { polygonPixels } from '../../target/polygonPixels.ts';
import type { Point } from '../../target/target.ts';
import { targetBounds } from '../../target/targetBounds.ts';
import type { FoundPiece } from '../pieces/findPieces.ts';
import type { Placement } from './placement.ts';
import { inverse, place } from './placement.ts';

/** How finely what pieces cover is held against one another, in places along a piece's longer side. */
const GRID = 160;

/** Places spread evenly over a piece, in pixels of its scan. */
function gridOf({ paper }: FoundPiece): Point[] {
  const { left, top, width: wide, height: high } = targetBounds({ shape: 'outline', points: paper }, 0);
  const cell = Math.max(wide, high) / GRID;
  const [width, height] = [Math.ceil(wide / cell), Math.ceil(high / cell)];
  const small = paper.map(([x, y]) => [(x - left) / cell, (y - top) / cell] as const);
  const inside = polygonPixels(small, { left: 0, top: 0, width, height });
  return [...inside.keys()]
    .filter((i) => inside[i] === 1)
    .map((i) => [left + ((i % width) + 0.5) * cell, top + (Math.floor(i / width) + 0.5) * cell] as const);
}

/** Answers whether a place of its scan lies on a piece, by every second pixel. */
function insideOf({ paper }: FoundPiece): (x: number, y: number) => boolean {
  const halved = paper.map(([x, y]) => [x / 2, y / 2] as const);
  const box = targetBounds({ shape: 'outline', points: halved }, 0);
  const mask = polygonPixels(halved, box);
  return (x, y) => {
    const [column, row] = [Math.floor(x / 2) - box.left, Math.floor(y / 2) - box.top];
    const isInBox = column >= 0 && row >= 0 && column < box.width && row < box.height;
    return isInBox && mask[row * box.width + column] === 1;
  };
}

/**
 * Answers how much of the smaller of two pieces lies over the other, as a share of it.
 *
 * @param pieces whose numbers are asked for
 * @returns for two numbers and the placement of the second beside the first
 */
export function coveredShares(
  pieces: readonly FoundPiece[],
): (first: number, second: number, onto: Placement) => number {
  const [grids, insides] = [pieces.map(gridOf), pieces.map(insideOf)];
  return (first, second, onto) => {
    const [small, large, placement] =
      pieces[first].area > pieces[second].area ? [second, first, onto] : [first, second, inverse(onto)];
    const lying = grids[small].filter((at) => insides[large](...place(placement, at))).length;
    return lying / grids[small].length;
  };
}
