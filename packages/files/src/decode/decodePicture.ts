import { said } from '@fennip/words';
import type { Raster } from '@fennip/core/raster';
import { createSharedRaster } from '@fennip/core/raster';
import { PictureError } from '../errors/pictureError.ts';
import type { Limits, PictureHeader } from './header.ts';
import { DEFAULT_LIMITS, openPicture, readHeader } from './header.ts';

export interface DecodedPicture {
  readonly header: PictureHeader;
  /** Upright, planar, in the values and the depth of the file; in memory that threads share. */
  readonly raster: Raster;
}

/** The usual case in one pass over the pixels: memory is what it waits for. */
function splitThree(interleaved: Uint8Array | Uint16Array, [red, green, blue]: Raster['planes']): void {
  for (let i = 0, from = 0; i < red.length; i++, from += 3) {
    red[i] = interleaved[from];
    green[i] = interleaved[from + 1];
    blue[i] = interleaved[from + 2];
  }
}

/** Pixel after pixel to plane after plane; `bands` says which value of a pixel each plane takes. */
function toPlanar(
  interleaved: Uint8Array | Uint16Array,
  decoded: number,
  bands: readonly number[],
  { width, height, depth }: PictureHeader,
): Raster {
  const raster = createSharedRaster(width, height, bands.length, depth);
  if (decoded === 3) {
    splitThree(interleaved, raster.planes);
    return raster;
  }
  raster.planes.forEach((plane, channel) => {
    for (let i = 0, from = bands[channel]; i < plane.length; i++, from += decoded)
      plane[i] = interleaved[from];
  });
  return raster;
}

interface Layout {
  readonly space: string;
  /** How many values the decoder gives for a pixel. */
  readonly decoded: number;
  readonly bands: readonly number[];
}

/** How a picture is asked for. The decoder's 8-bit grey loses its alpha, so that one is decoded as colour. */
function layoutOf({ channels, depth }: PictureHeader): Layout {
  const bands = Array.from({ length: channels }, (_, i) => i);
  if (channels === 2 && depth === 8) return { space: 'srgb', decoded: 4, bands: [0, 3] };
  if (channels <= 2) return { space: depth === 16 ? 'grey16' : 'b-w', decoded: channels, bands };
  return { space: depth === 16 ? 'rgb16' : 'srgb', decoded: channels, bands };
}

/**
 * Decodes a picture file to its working raster: upright, nothing converted, nothing rounded.
 *
 * @param page of a file that holds several pictures, from 0
 * @throws PictureError when the file is refused or its pixels are broken or cut short
 */
export async function decodePicture(
  path: string,
  limits: Limits = DEFAULT_LIMITS,
  page = 0,
): Promise<DecodedPicture> {
  const header = await readHeader(path, limits, page);
  const { space, decoded, bands } = layoutOf(header);
  const pipeline = openPicture(path, !header.isCmyk, page).autoOrient().toColourspace(space);
  const { data, info } = await pipeline
    .raw({ depth: header.depth === 16 ? 'ushort' : 'uchar' })
    .toBuffer({ resolveWithObject: true })
    .catch((cause: unknown) => {
      throw new PictureError('broken', said('file.brokenPixels'), {
        cause,
      });
    });
  if (info.width !== header.width || info.height !== header.height || info.channels !== decoded)
    throw new PictureError(
      'broken',
      said('file.disagrees', {
        ...{ width: header.width, height: header.height, channels: decoded },
        ...{ heldWidth: info.width, heldHeight: info.height, heldChannels: info.channels },
      }),
    );
  // A plain array over the same memory: loops over the decoder's own kind of buffer are several times slower.
  const samples =
    header.depth === 16
      ? new Uint16Array(data.buffer, data.byteOffset, data.byteLength / 2)
      : new Uint8Array(data.buffer, data.byteOffset, data.byteLength);
  return { header, raster: toPlanar(samples, decoded, bands, header) };
}
