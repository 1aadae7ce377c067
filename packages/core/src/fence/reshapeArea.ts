import { maskOfSpans, spansOfMask } from '../target/spanRows.ts';
import type { MaskTarget, Target } from '../target/target.ts';
import { fillHoles } from './areaHoles.ts';
import { areaOfTarget } from './areaOfTarget.ts';
import type { AreaJoin } from './combineAreas.ts';
import { combineAreas, invertArea } from './combineAreas.ts';
import { growArea, shrinkArea } from './resizeArea.ts';

/** What can be done to the area of a fence; lengths in pixels. */
export type AreaChange =
  | { readonly how: 'join'; readonly join: AreaJoin; readonly shape: Target }
  | { readonly how: 'invert' }
  | { readonly how: 'grow'; readonly by: number }
  | { readonly how: 'shrink'; readonly by: number }
  | { readonly how: 'fill holes' };

/**
 * Changes an area on a picture of these sides.
 *
 * @param area none is an empty one
 * @param picture its sides in pixels
 * @returns null where nothing is left
 */
export function reshapeArea(
  area: Target | null,
  change: AreaChange,
  picture: { readonly width: number; readonly height: number },
): MaskTarget | null {
  const before = area === null ? { top: 0, rows: [] } : areaOfTarget(area, picture);
  switch (change.how) {
    case 'join':
      return maskOfSpans(combineAreas(before, areaOfTarget(change.shape, picture), change.join));
    case 'invert':
      return maskOfSpans(invertArea(before, picture));
    case 'grow':
      return maskOfSpans(growArea(before, change.by, picture));
    case 'shrink':
      return maskOfSpans(shrinkArea(before, change.by, picture));
    case 'fill holes':
      return maskOfSpans(fillHoles(before, picture));
  }
}

/**
 * The spans of an area as it is drawn: those of its mask, or of its shape.
 *
 * @param area in pixels of the upright original
 */
export const areaSpans = (area: Target, picture: { readonly width: number; readonly height: number }) =>
  area.shape === 'mask' ? spansOfMask(area) : areaOfTarget(area, picture);
