import { RecipeError } from '../errors.ts';
import type { Rect } from '../raster/rect.ts';
import { rectsMeet } from '../raster/rect.ts';
import { targetBounds } from '../target/targetBounds.ts';
import { targetDistance } from '../target/targetDistance.ts';
import type { Fence } from './fence.ts';

/** How much of each pixel of a rectangle lies in a fence's area, 0 to 1. */
export function fenceCoverage({ area, edge }: Fence, rect: Rect): Float32Array {
  const coverage = targetDistance(area, rect);
  // A border without width still runs across the pixels it cuts, or it would show as steps.
  const width = Math.max(edge, 1);
  // Outlines and masks know no depth inside, so their border lies outside of it.
  const shift = area.shape === 'disc' || area.shape === 'stroke' ? 0.5 : 1;
  for (let i = 0; i < coverage.length; i++)
    coverage[i] = Math.min(1, Math.max(0, shift - coverage[i] / width));
  return coverage;
}

/** The fences that have a say in a mend: all guards that are on, and the zone it names. */
const concerned = (fences: readonly Fence[], zone: string | undefined): Fence[] =>
  fences.filter((fence) => fence.on && (fence.kind === 'guard' || fence.id === zone));

/**
 * How much of each pixel of a rectangle a mend may touch, 0 to 1, row after row; null where nothing bounds it.
 * @throws RecipeError when the zone does not exist
 */
export function allowanceOn(
  fences: readonly Fence[],
  zone: string | undefined,
  rect: Rect,
): Float32Array | null {
  if (zone !== undefined && !fences.some(({ id, kind }) => id === zone && kind === 'zone'))
    throw new RecipeError('zone', `no zone has the id ${zone}`);
  const near = concerned(fences, zone).filter(
    ({ kind, area, edge }) => kind === 'zone' || rectsMeet(targetBounds(area, edge + 1), rect),
  );
  if (near.length === 0) return null;
  const allowance = new Float32Array(rect.width * rect.height).fill(1);
  for (const fence of near) {
    const coverage = fenceCoverage(fence, rect);
    for (let i = 0; i < allowance.length; i++)
      allowance[i] *= fence.kind === 'guard' ? 1 - coverage[i] : coverage[i];
  }
  return allowance;
}
