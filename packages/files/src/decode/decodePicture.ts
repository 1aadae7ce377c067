import { said } from '@fennip/words';
import type { Depth, Raster } from '@fennip/core/raster';
import { createSharedRaster } from '@fennip/core/raster';
import type { Sharp } from 'sharp';
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

/** Which of the values that the decoder gives for a pixel. */
type Band = 0 | 1 | 2 | 3;
const BANDS: readonly Band[] = [0, 1, 2, 3];

interface Layout {
  readonly space: string;
  /** How many values the decoder gives for a pixel. */
  readonly decoded: number;
  readonly bands: readonly Band[];
}

/** How a picture is asked for. The decoder's 8-bit grey loses its alpha, so that one is decoded as colour. */
export function layoutOf({ channels, depth }: PictureHeader): Layout {
  const bands = BANDS.slice(0, channels);
  if (channels === 2 && depth === 8) return { space: 'srgb', decoded: 4, bands: [0, 3] };
  if (channels <= 2) return { space: depth === 16 ? 'grey16' : 'b-w', decoded: channels, bands };
  return { space: depth === 16 ? 'rgb16' : 'srgb', decoded: channels, bands };
}

/** From here on a picture is decoded once for each plane: that takes longer, and half the memory. */
const MOST_INTERLEAVED_BYTES = 500e6;

/** What the decoder gives, as a plain array over the same memory: loops over its own kind of buffer are several times slower. */
const samplesOf = (data: Buffer, depth: Depth): Uint8Array | Uint16Array =>
  depth === 16
    ? new Uint16Array(data.buffer, data.byteOffset, data.byteLength / 2)
    : new Uint8Array(data.buffer, data.byteOffset, data.byteLength);

/** Runs a pipeline of the decoder. @param channels it must give @throws PictureError */
async function samples(
  pipeline: Sharp,
  header: PictureHeader,
  channels: number,
): Promise<Uint8Array | Uint16Array> {
  const { width, height, depth } = header;
  const { data, info } = await pipeline
    .raw({ depth: depth === 16 ? 'ushort' : 'uchar' })
    .toBuffer({ resolveWithObject: true })
    .catch((cause: unknown) => {
      throw new PictureError('broken', said('file.brokenPixels'), { cause });
    });
  if (info.width !== width || info.height !== height || info.channels !== channels)
    throw new PictureError(
      'broken',
      said('file.disagrees', {
        ...{ width, height, channels },
        ...{ heldWidth: info.width, heldHeight: info.height, heldChannels: info.channels },
      }),
    );
  return samplesOf(data, depth);
}

/** How a picture's pixels are read: its path, its page, its header, and its layout. */
type Decode = (path: string, page: number, header: PictureHeader, layout: Layout) => Promise<Raster>;

const uprightPixels = (path: string, page: number, { isCmyk }: PictureHeader, { space }: Layout): Sharp =>
  openPicture(path, !isCmyk, page).autoOrient().toColourspace(space);

const decodeAtOnce: Decode = async (path, page, header, layout) => {
  const { decoded, bands } = layout;
  return toPlanar(
    await samples(uprightPixels(path, page, header, layout), header, decoded),
    decoded,
    bands,
    header,
  );
};

/** The same with one plane in memory beside the raster. */
export const decodeByPlanes: Decode = async (path, page, header, layout) => {
  const { width, height, depth } = header;
  const raster = createSharedRaster(width, height, layout.bands.length, depth);
  for (const [channel, band] of layout.bands.entries()) {
    const pipeline = uprightPixels(path, page, header, layout);
    raster.planes[channel].set(
      await samples(layout.decoded === 1 ? pipeline : pipeline.extractChannel(band), header, 1),
    );
  }
  return raster;
};

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
  const layout = layoutOf(header);
  const bytes = header.width * header.height * layout.decoded * (header.depth / 8);
  const raster = await (bytes > MOST_INTERLEAVED_BYTES ? decodeByPlanes : decodeAtOnce)(
    path,
    page,
    header,
    layout,
  );
  return { header, raster };
}
