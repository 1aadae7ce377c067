import { mulberry } from '../random/index.ts';
import type { Raster } from '../raster/raster.ts';
import { createRaster } from '../raster/raster.ts';

/** Sides of the print. */
export const PRINT = { width: 360, height: 240 };
/** Between pieces and around them, in pixels. */
const APART = 40;

/** Where a tear across the print lies in a row: it wanders, with bites. */
export const tearAt = (y: number): number =>
  170 + 14 * Math.sin(y / 19) + 7 * Math.sin(y / 7.3 + 1) + 2 * Math.sin(y / 2.9);

/** Dark fields with lines, and no white anywhere. */
function toneAt(x: number, y: number): number {
  const fields = 70 + 30 * Math.sin(x / 31) * Math.cos(y / 23);
  return fields + 25 * Math.sin((x + 2 * y) / 5) * (x % 60 < 30 ? 1 : 0.3);
}

/** How a piece is laid on the glass: turned about the middle of the print, then moved. */
export interface Lying {
  readonly angle: number;
  readonly dx: number;
  readonly dy: number;
}

/** The place of the print that lies at a place of the scan. */
export function ontoTornPrint({ angle, dx, dy }: Lying, x: number, y: number): [x: number, y: number] {
  const [cos, sin] = [Math.cos(angle), Math.sin(angle)];
  const [u, v] = [x - dx - PRINT.width / 2, y - dy - PRINT.height / 2];
  return [cos * u + sin * v + PRINT.width / 2, cos * v - sin * u + PRINT.height / 2];
}

/** How much of a pixel a half of the print covers at a place of it. @param side -1 for the left, 1 for the right */
export function coverOfHalf(side: -1 | 1, x: number, y: number): number {
  const share = (distance: number): number => Math.max(0, Math.min(1, 0.5 + distance));
  const { width, height } = PRINT;
  return Math.min(share(x), share(width - x), share(y), share(height - y), share(side * (x - tearAt(y))));
}

/** A scan of both halves of a torn print on a light ground, each as it lies. */
export function scanOfHalves(left: Lying, right: Lying, ground = 236): Raster {
  const uniform = mulberry(11);
  const scan = createRaster(2 * PRINT.width + 3 * APART, PRINT.height + 4 * APART, 1, 8);
  for (let y = 0, i = 0; y < scan.height; y++)
    for (let x = 0; x < scan.width; x++, i++) {
      let value = ground;
      for (const [side, lying] of [[-1, left] as const, [1, right] as const]) {
        const [px, py] = ontoTornPrint(lying, x + 0.5, y + 0.5);
        const cover = coverOfHalf(side, px, py);
        value += cover * (toneAt(px, py) - value);
      }
      scan.planes[0][i] = Math.round(value + 2 * (uniform() - 0.5));
    }
  return scan;
}

/** Halves as they are usually laid: a little turned, one beside the other. */
export const LYING = {
  left: { angle: 0.12, dx: 50, dy: 85 },
  right: { angle: -0.2, dx: 395, dy: 70 },
} as const;
