import { fitReach, sketchVeil } from '../../mend/recover/sketchVeil.ts';
import { veilFrom } from '../../mend/recover/veilParameters.ts';
import type { Pixels } from '../../raster/pixels.ts';
import { growRect, intersectRects } from '../../raster/rect.ts';
import { pictureRect } from '../../raster/window.ts';
import { logOdds } from '../classify/logOdds.ts';
import type { Fault } from '../fault.ts';

/** What a closer look at a speck tells, in this order. */
export const VEIL_TRAITS = [
  'confidence',
  'evidence',
  'grown',
  'off',
  'depth',
  'softness',
  'radius',
  'polarity',
] as const;

/**
 * Looks closer at a speck: what of it a veil in linear light explains, and whether the veil has the place and the size that
 * the speck was found with. Texture of the subject does not line up with a disc (see `mend/recover`), and the best disc on
 * it is another one.
 */
export function veilTraits({ x, y, r, polarity, confidence }: Fault, pixels: Pixels): number[] {
  const middle = { left: Math.floor(x), top: Math.floor(y), width: 1, height: 1 };
  const rect = intersectRects(growRect(middle, fitReach(r)), pictureRect(pixels.shape));
  const { point, evidence } = sketchVeil(pixels.window(rect), { x, y, r, polarity });
  const veil = veilFrom(point);
  return [
    logOdds(confidence),
    Math.log(1 + Math.max(0, evidence)),
    Math.log(veil.r / r),
    Math.hypot(veil.x - x, veil.y - y) / r,
    veil.depth,
    veil.softness,
    Math.log(r),
    polarity === 'dark' ? 1 : -1,
  ];
}
