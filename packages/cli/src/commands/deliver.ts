import { INTENTS } from '@fennip/core/colour';
import type { Raster } from '@fennip/core/raster';
import type { FlatFormat, PictureHeader } from '@fennip/files';
import { ENCODE_DEFAULTS, TARGET_PROFILES, deliverPicture } from '@fennip/files';
import type { OptionValues } from '../options/command.ts';
import { choiceOption, numberOption, textOption } from '../options/command.ts';
import { writeWhole } from '../pictures/writeWhole.ts';

/** Options of every command that writes a picture. */
export const DELIVERY_OPTIONS = {
  quality: { type: 'string' },
  depth: { type: 'string' },
  chroma: { type: 'string' },
  compression: { type: 'string' },
  longest: { type: 'string' },
  profile: { type: 'string' },
  intent: { type: 'string' },
  strip: { type: 'boolean' },
} as const;

export const DELIVERY_HELP = `  --quality      of JPEG and WebP, 1 to 100 (default ${ENCODE_DEFAULTS.quality})
  --chroma       of JPEG: 4:4:4 or 4:2:0 (default: by quality)
  --depth        8 or 16 bit, of PNG and TIFF (default: that of IN)
  --compression  of TIFF: deflate (default) or lzw
  --longest      pixels of the longer side (default: as large as it is)
  --profile      own (default), srgb, display-p3 or grey
  --intent       what becomes of colours that the profile cannot show: relative (default) or perceptual
  --strip        leaves Exif, XMP and IPTC behind`;

/** The longest side that is written. */
const MOST_SIDE = 65535;

/** Writes a picture in a format, keeping its depth where the format can. */
export async function deliver(
  raster: Raster,
  header: PictureHeader,
  format: FlatFormat,
  path: string,
  values: OptionValues,
): Promise<void> {
  const depth =
    choiceOption(values, 'depth', ['8', '16'], raster.depth === 16 ? '16' : '8') === '16' ? 16 : 8;
  const quality = Math.round(numberOption(values, 'quality', 1, 100, ENCODE_DEFAULTS.quality));
  const longest = Math.round(numberOption(values, 'longest', 16, MOST_SIDE, MOST_SIDE));
  const bytes = await deliverPicture(raster, header, {
    ...{ format, quality, depth },
    ...(textOption(values, 'chroma') === undefined
      ? {}
      : { chroma: choiceOption<'4:4:4' | '4:2:0'>(values, 'chroma', ['4:4:4', '4:2:0'], '4:4:4') }),
    compression: choiceOption<'deflate' | 'lzw'>(values, 'compression', ['deflate', 'lzw'], 'deflate'),
    size: textOption(values, 'longest') === undefined ? { kind: 'full' } : { kind: 'pixels', longest },
    profile: choiceOption(values, 'profile', TARGET_PROFILES, 'own'),
    intent: choiceOption(values, 'intent', INTENTS, 'relative'),
    isDataKept: values['strip'] !== true,
    note: null,
  });
  await writeWhole(path, bytes);
}
