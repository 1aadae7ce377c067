import type { Raster } from '@fennip/core';
import type { CarriedData, PictureFormat } from '@fennip/files';
import { ENCODE_DEFAULTS, encodePicture } from '@fennip/files';
import type { OptionValues } from './command.ts';
import { choiceOption, numberOption } from './command.ts';
import { writeWhole } from './writeWhole.ts';

/** Options of every command that writes a picture. */
export const DELIVERY_OPTIONS = { quality: { type: 'string' }, depth: { type: 'string' } } as const;

export const DELIVERY_HELP = `  --quality      of JPEG and WebP, 1 to 100 (default ${ENCODE_DEFAULTS.quality})
  --depth        8 or 16 bit, of PNG and TIFF (default: that of IN)`;

/** Writes a picture in a format, keeping its depth where the format can. */
export async function deliver(
  raster: Raster,
  carried: CarriedData,
  format: PictureFormat,
  path: string,
  values: OptionValues,
): Promise<void> {
  const depth =
    choiceOption(values, 'depth', ['8', '16'], raster.depth === 16 ? '16' : '8') === '16' ? 16 : 8;
  const quality = Math.round(numberOption(values, 'quality', 1, 100, ENCODE_DEFAULTS.quality));
  await writeWhole(path, await encodePicture(raster, carried, { format, quality, depth }));
}
