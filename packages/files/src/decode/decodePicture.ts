import type { Raster } from '@fennip/core';
import { createRaster } from '@fennip/core';
import { PictureError } from '../pictureError.ts';
import type { Limits, PictureHeader } from './header.ts';
import { DEFAULT_LIMITS, openPicture, readHeader } from './header.ts';

export interface DecodedPicture {
  readonly header: PictureHeader;
  /** Upright, planar, in the values and the depth of the file. */
  readonly raster: Raster;
}

/** Pixel after pixel to plane after plane. */
function toPlanar(interleaved: Uint8Array | Uint16Array, header: PictureHeader): Raster {
  const { width, height, channels, depth } = header;
  const raster = createRaster(width, height, channels, depth);
  raster.planes.forEach((plane, channel) => {
    for (let i = 0, from = channel; i < plane.length; i++, from += channels) plane[i] = interleaved[from];
  });
  return raster;
}

function spaceOf({ channels, depth }: PictureHeader): string {
  if (channels <= 2) return depth === 16 ? 'grey16' : 'b-w';
  return depth === 16 ? 'rgb16' : 'srgb';
}

/**
 * Decodes a picture file to its working raster: upright, nothing converted, nothing rounded.
 * @throws PictureError when the file is refused or its pixels are broken or cut short
 */
export async function decodePicture(path: string, limits: Limits = DEFAULT_LIMITS): Promise<DecodedPicture> {
  const header = await readHeader(path, limits);
  const pipeline = openPicture(path, !header.isCmyk).autoOrient().toColourspace(spaceOf(header));
  const { data, info } = await pipeline
    .raw({ depth: header.depth === 16 ? 'ushort' : 'uchar' })
    .toBuffer({ resolveWithObject: true })
    .catch((cause: unknown) => {
      throw new PictureError(
        'broken',
        'The file is broken or cut short: its pixels cannot be read to the end.',
        {
          cause,
        },
      );
    });
  if (info.width !== header.width || info.height !== header.height || info.channels !== header.channels)
    throw new PictureError(
      'broken',
      `The file says ${header.width} x ${header.height} in ${header.channels} channels but holds ${info.width} x ${info.height} in ${info.channels}.`,
    );
  const samples =
    header.depth === 16 ? new Uint16Array(data.buffer, data.byteOffset, data.byteLength / 2) : data;
  return { header, raster: toPlanar(samples, header) };
}
