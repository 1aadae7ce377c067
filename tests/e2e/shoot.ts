import { readFile } from 'node:fs/promises';
import { fileURLToPath } from 'node:url';
import type { Raster } from '@fennip/core/raster';
import { linearToSrgb, srgbToLinear } from '@fennip/core/light';
import { resizeRaster } from '@fennip/core/resample';
import { decodePicture, encodePicture } from '@fennip/files';

/** Sides of a frame of the small shoot. */
export const [WIDTH, HEIGHT] = [1200, 800];
const FRAMES = [1, 2, 3, 4, 5, 6, 7, 8] as const;
const folder = fileURLToPath(new URL('../../packages/scenes/pictures/', import.meta.url));
const fileOf = (number: number): string => `viaduct-line-shoot-${number}.jpg`;

/** A shadow of the sensor's dust in a frame, in pixels of the small shoot. */
export interface LaidShadow {
  readonly x: number;
  readonly y: number;
  readonly r: number;
  readonly depth: number;
  readonly softness: number;
}

export interface SmallFrame {
  readonly name: string;
  readonly file: Buffer;
  readonly raster: Raster;
  readonly shadows: readonly LaidShadow[];
}

interface Truth {
  readonly picture: { readonly width: number };
  readonly faults: readonly LaidShadow[];
}

/** The demo's shoot along the line, smaller: eight frames of one dusty sensor with what their files carry. */
export const smallShoot = (): Promise<SmallFrame[]> =>
  Promise.all(
    FRAMES.map(async (number) => {
      const { raster, header } = await decodePicture(`${folder}${fileOf(number)}`);
      const small = resizeRaster(raster, WIDTH, HEIGHT);
      const { picture, faults } = JSON.parse(
        await readFile(`${folder}${fileOf(number)}.truth.json`, 'utf8'),
      ) as Truth;
      const scale = WIDTH / picture.width;
      return {
        name: fileOf(number),
        file: await encodePicture(small, header, { format: 'jpeg', quality: 95, depth: 8 }),
        raster: small,
        shadows: faults.map(({ x, y, r, depth, softness }) => ({
          ...{ x: x * scale, y: y * scale, r: r * scale },
          ...{ depth, softness },
        })),
      };
    }),
  );

/**
 * How much of a shadow is still there in a mended frame: 0 is all gone, 1 nothing. What is left is projected on the shadow
 * that was laid, undone in the frame as it came, so that the scene's own texture falls out.
 */
export function leftOf(mended: Raster, seen: Raster, { x, y, r, depth, softness }: LaidShadow): number {
  const { width, height, stride } = seen;
  const reach = Math.ceil(r * (1 + softness) + 1);
  let [along, whole] = [0, 0];
  for (let py = Math.max(0, Math.floor(y - reach)); py < Math.min(height, y + reach); py++)
    for (let px = Math.max(0, Math.floor(x - reach)); px < Math.min(width, x + reach); px++) {
      const away = Math.hypot(px + 0.5 - x, py + 0.5 - y) / r;
      const border = Math.max(softness, 0.7 / r);
      const t = Math.min(1, Math.max(0, (1 + border - away) / (2 * border)));
      const amount = depth * t * t * (3 - 2 * t);
      const at = py * stride + px;
      const before = srgbToLinear(seen.planes[1][at] / 255);
      const shadow = before - before / (1 - amount);
      along += (srgbToLinear(mended.planes[1][at] / 255) - before / (1 - amount)) * shadow;
      whole += shadow * shadow;
    }
  return whole > 0 ? along / whole : 0;
}

/** True if a shadow is dark against black: too little light to be told from rounding. */
export const isSeen = ({ raster }: SmallFrame, { x, y, r, depth }: LaidShadow): boolean => {
  if (x < 2 * r || y < 2 * r || x > WIDTH - 2 * r || y > HEIGHT - 2 * r) return false;
  const tone = raster.planes[1][Math.floor(y) * raster.stride + Math.floor(x)] / 255;
  return 255 * (tone - linearToSrgb(srgbToLinear(tone) * (1 - depth))) > 4;
};
