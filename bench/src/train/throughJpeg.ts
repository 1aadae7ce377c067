import type { Raster } from '@fennip/core/raster';
import sharp from 'sharp';
import { throughSharp } from './throughSharp.ts';

/** A picture of 8 bits and three channels as a JPEG file gives it back. @param quality 1 to 100 */
export const throughJpeg = (
  picture: Raster,
  quality: number,
  chromaSubsampling: '4:2:0' | '4:4:4',
): Promise<Raster> =>
  throughSharp(picture, async (pixels) =>
    sharp(await pixels.jpeg({ quality, chromaSubsampling }).toBuffer()),
  );
