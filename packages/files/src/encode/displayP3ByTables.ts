import type { Raster } from '@fennip/core/raster';
import { createRaster } from '@fennip/core/raster';
import sharp from 'sharp';
import { encodePicture } from './encodePicture.ts';

/**
 * A picture whose profile says by tables what its values mean, in Display P3: the widest space that a delivery can be in.
 * The imaging library's colour engine reads the tables (Little CMS, the perceptual ones where there are several).
 *
 * @param raster of three colours, with an alpha or without
 * @returns in 16 bit, a raster of its own; null where the engine cannot read the profile
 */
export async function displayP3ByTables(raster: Raster, icc: Buffer): Promise<Raster | null> {
  if (!(await isRead(icc))) return null;
  return converted(raster, icc);
}

async function converted(raster: Raster, icc: Buffer): Promise<Raster> {
  const file = await encodePicture(raster, { icc }, { format: 'tiff', quality: 100, depth: 16 });
  const { data } = await sharp(file, { limitInputPixels: false })
    .toColourspace('rgb16')
    .withIccProfile('p3')
    .raw({ depth: 'ushort' })
    .toBuffer({ resolveWithObject: true });
  const samples = new Uint16Array(data.buffer, data.byteOffset, data.byteLength / 2);
  const out = createRaster(raster.width, raster.height, raster.planes.length, 16);
  out.planes.forEach((plane, c) => {
    for (let i = 0, from = c; i < plane.length; i++, from += out.planes.length) plane[i] = samples[from];
  });
  return out;
}

/** Levels of each channel in what is tried out. */
const LEVELS = 5;

/** A picture of colours from all over the cube. */
function cube(): Raster {
  const raster = createRaster(LEVELS ** 2, LEVELS, 3, 16);
  for (let i = 0; i < LEVELS ** 3; i++)
    raster.planes.forEach((plane, c) => {
      plane[i] = (65535 * (Math.floor(i / LEVELS ** c) % LEVELS)) / (LEVELS - 1);
    });
  return raster;
}

/** A profile without a tag. */
const UNREADABLE = Buffer.alloc(144);

/** True if the engine makes something of a profile. One that it cannot read it passes over without a word, whatever it is. */
async function isRead(icc: Buffer): Promise<boolean> {
  const [own, unread] = [await converted(cube(), icc), await converted(cube(), UNREADABLE)];
  return own.planes.some((plane, c) => plane.some((value, i) => value !== unread.planes[c][i]));
}
