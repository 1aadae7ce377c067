import type { Raster } from '@fennip/core/raster';
import { createRaster } from '@fennip/core/raster';
import type { Sharp } from 'sharp';
import sharp from 'sharp';

/** A picture of 8 bits and three channels as the imaging library gives it back. */
export async function throughSharp(
  { width, height, planes }: Raster,
  work: (picture: Sharp) => Sharp | Promise<Sharp>,
): Promise<Raster> {
  const bytes = new Uint8Array(3 * width * height);
  planes.forEach((plane, c) => {
    for (let i = 0; i < width * height; i++) bytes[3 * i + c] = plane[i];
  });
  const done = await work(sharp(bytes, { raw: { width, height, channels: 3 } }));
  const back = await done.removeAlpha().raw().toBuffer();
  const out = createRaster(width, height, 3, 8);
  out.planes.forEach((plane, c) => {
    for (let i = 0; i < width * height; i++) plane[i] = back[3 * i + c];
  });
  return out;
}
