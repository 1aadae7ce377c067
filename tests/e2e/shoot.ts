import { readFile } from 'node:fs/promises';
import { fileURLToPath } from 'node:url';
import type { Raster } from '@fennip/core';
import { linearToSrgb, resizeRaster, srgbToLinear } from '@fennip/core';
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
        shadows: faults.map(({ x, y, r, depth }) => ({ x: x * scale, y: y * scale, r: r * scale, depth })),
      };
    }),
  );

/** Mean luma in a disc and in the ring around it, as shares of the light. */
function contrastAt({ planes, width, height, stride }: Raster, { x, y, r }: LaidShadow): number {
  let [core, inside, ring, around] = [0, 0, 0, 0];
  const reach = Math.ceil(2.4 * r + 2);
  for (let py = Math.max(0, Math.floor(y - reach)); py < Math.min(height, y + reach); py++)
    for (let px = Math.max(0, Math.floor(x - reach)); px < Math.min(width, x + reach); px++) {
      const away = Math.hypot(px + 0.5 - x, py + 0.5 - y) / r;
      const light = srgbToLinear(planes[1][py * stride + px] / 255);
      // Nearer to its rim a soft shadow is no longer as deep as at its middle.
      if (away < 0.5) [core, inside] = [core + light, inside + 1];
      else if (away > 1.7 && away < 2.4) [ring, around] = [ring + light, around + 1];
    }
  if (inside === 0 || around === 0) return 0;
  return 1 - core / inside / (ring / around);
}

/**
 * How much of a shadow is still there in a mended frame, against the frame as it came: 0 is all gone, 1 nothing. What the
 * scene itself does between disc and ring is the same in both and falls out.
 */
export function leftOf(mended: Raster, seen: Raster, shadow: LaidShadow): number {
  const [before, after] = [contrastAt(seen, shadow), contrastAt(mended, shadow)];
  const clean = 1 - (1 - before) / (1 - shadow.depth);
  return (after - clean) / (before - clean);
}

/** Whether a shadow is dark against black: too little light to be told from rounding. */
export const isSeen = ({ raster }: SmallFrame, { x, y, r, depth }: LaidShadow): boolean => {
  if (x < 2 * r || y < 2 * r || x > WIDTH - 2 * r || y > HEIGHT - 2 * r) return false;
  const tone = raster.planes[1][Math.floor(y) * raster.stride + Math.floor(x)] / 255;
  return 255 * (tone - linearToSrgb(srgbToLinear(tone) * (1 - depth))) > 4;
};
