import { labPlanes } from '../colour/labPlanes.ts';
import type { PictureShape, Raster } from '../raster/raster.ts';
import { ciede2000 } from './ciede2000.ts';

/** How different the colours of two pictures look, in units of CIEDE2000. */
export interface ColourDifference {
  readonly median: number;
  /** What 95 % of the pixels stay below. */
  readonly most: number;
}

/**
 * Compares two pictures of the same sides pixel by pixel, where `inside` is above 0 (everywhere without it).
 *
 * @param a encoded values, 8 or 16 bit
 * @param inside a value for each pixel, row after row
 * @param transfer what the values of both mean in light; sRGB where it is missing
 * @returns differences in units of CIEDE2000
 */
export function colourDifference(
  a: Raster,
  b: Raster,
  inside?: Uint8Array,
  transfer?: PictureShape['transfer'],
): ColourDifference {
  const [own, other] = [labPlanes(a, transfer), labPlanes(b, transfer)];
  const differences: number[] = [];
  for (let i = 0; i < own[0].length; i++)
    if (!inside || inside[i] > 0)
      differences.push(ciede2000([own[0][i], own[1][i], own[2][i]], [other[0][i], other[1][i], other[2][i]]));
  const sorted = Float64Array.from(differences).sort();
  const at = (share: number): number =>
    sorted[Math.min(sorted.length - 1, Math.floor(share * sorted.length))] ?? 0;
  return { median: at(0.5), most: at(0.95) };
}
