import type { Raster } from '@fennip/core/raster';
import { createRaster } from '@fennip/core/raster';
import sharp from 'sharp';

/** A picture of 8 bits and three channels as a JPEG file gives it back. @param quality 1 to 100 */
export async function throughJpeg(
  picture: Raster,
  quality: number,
  chromaSubsampling: '4:2:0' | '4:4:4',
): Promise<Raster> {
  const { width, height, planes } = picture;
  const bytes = new Uint8Array(3 * width * height);
  planes.forEach((plane, c) => {
    for (let i = 0; i < width * height; i++) bytes[3 * i + c] = plane[i];
  });
  const file = await sharp(bytes, { raw: { width, height, channels: 3 } })
    .jpeg({ quality, chromaSubsampling })
    .toBuffer();
  const back = await sharp(file).raw().toBuffer();
  const out = createRaster(width, height, 3, 8);
  out.planes.forEach((plane, c) => {
    for (let i = 0; i < width * height; i++) plane[i] = back[3 * i + c];
  });
  return out;
}
