import { RecipeError } from '../errors.ts';
import type { Rect } from '../raster/rect.ts';
import { growRect, intersectRects, rectsMeet } from '../raster/rect.ts';
import { distanceToSet } from '../target/distanceTransform.ts';
import type { MaskTarget } from '../target/target.ts';
import { targetBounds } from '../target/targetBounds.ts';
import { maskPixels, targetDistance } from '../target/targetDistance.ts';
import type { Fence } from './fence.ts';

interface Sides {
  readonly width: number;
  readonly height: number;
}

/** How much of each pixel of a rectangle lies in a fence's area, 0 to 1. */
export function fenceCoverage({ area, edge }: Fence, rect: Rect, picture: Sides): Float32Array {
  if (area.shape === 'mask') return maskCoverage(area, edge, rect, picture);
  const coverage = targetDistance(area, rect);
  // A border without width still runs across the pixels it cuts, or it would show as steps.
  const width = Math.max(edge, 1);
  // An outline knows no depth inside, so its border lies outside of it.
  const shift = area.shape === 'outline' ? 1 : 0.5;
  for (let i = 0; i < coverage.length; i++)
    coverage[i] = Math.min(1, Math.max(0, shift - coverage[i] / width));
  return coverage;
}

/** A set of pixels has its soft border half inside and half outside; one without is the set itself. */
function maskCoverage(area: MaskTarget, edge: number, rect: Rect, picture: Sides): Float32Array {
  if (edge < 1) return Float32Array.from(maskPixels(area, rect));
  // What decides about a pixel of the border may lie just outside of the rectangle, but never outside of the picture:
  // an area that ends with the picture has no border there.
  const wide = intersectRects(growRect(rect, Math.ceil(edge / 2) + 1), {
    left: 0,
    top: 0,
    width: picture.width,
    height: picture.height,
  });
  const inside = maskPixels(area, wide);
  const coverage = new Float32Array(rect.width * rect.height);
  if (!inside.includes(0)) return coverage.fill(1);
  if (!inside.includes(1)) return coverage;
  const outward = distanceToSet(inside, wide.width, wide.height);
  const inward = distanceToSet(
    inside.map((isIn) => 1 - isIn),
    wide.width,
    wide.height,
  );
  const [roomX, roomY] = [rect.left - wide.left, rect.top - wide.top];
  for (let y = 0; y < rect.height; y++)
    for (let x = 0; x < rect.width; x++) {
      const at = (y + roomY) * wide.width + x + roomX;
      // Pixels are squares: the border lies half a pixel from the centres on both sides.
      const depth = inside[at] ? inward[at] - 0.5 : 0.5 - outward[at];
      coverage[y * rect.width + x] = Math.min(1, Math.max(0, 0.5 + depth / edge));
    }
  return coverage;
}

/** The fences that have a say in a mend: all guards that are on, and the zone it names. */
const concerned = (fences: readonly Fence[], zone: string | undefined): Fence[] =>
  fences.filter((fence) => fence.on && (fence.kind === 'guard' || fence.id === zone));

/**
 * How much of each pixel of a rectangle a mend may touch, 0 to 1, row after row; null where nothing bounds it.
 *
 * @param rect in pixels of the upright original
 * @returns `rect.width * rect.height` values
 * @throws RecipeError when the zone does not exist
 */
export function allowanceOn(
  fences: readonly Fence[],
  zone: string | undefined,
  rect: Rect,
  picture: Sides,
): Float32Array | null {
  if (zone !== undefined && !fences.some(({ id, kind }) => id === zone && kind === 'zone'))
    throw new RecipeError('zone', `no zone has the id ${zone}`);
  const near = concerned(fences, zone).filter(
    ({ kind, area, edge }) => kind === 'zone' || rectsMeet(targetBounds(area, edge + 1), rect),
  );
  if (near.length === 0) return null;
  const allowance = new Float32Array(rect.width * rect.height).fill(1);
  for (const fence of near) {
    const coverage = fenceCoverage(fence, rect, picture);
    for (let i = 0; i < allowance.length; i++)
      allowance[i] *= fence.kind === 'guard' ? 1 - coverage[i] : coverage[i];
  }
  return allowance;
}
