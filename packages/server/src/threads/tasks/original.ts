import type { Transfer } from '@fennip/core/light';
import type { Pixels, Raster } from '@fennip/core/raster';
import { pixelsOf } from '@fennip/core/raster';
import type { DecodedPicture, PictureHeader } from '@fennip/files';
import { PictureError, decodePicture, readHeader } from '@fennip/files';
import { said } from '@fennip/words';

/** A picture's original, as a task names it. */
export interface Original {
  /** Path of the file. */
  readonly original: string;
  /** A picture with more pixels is refused. */
  readonly mostPixels: number;
}

/** A picture in memory that threads share, and what its values mean in light. */
export interface LoadedPicture {
  readonly raster: Raster;
  readonly transfer?: readonly Transfer[];
}

/**
 * That a file of the store is missing is said of the picture: its name there says nothing to anybody.
 */
async function ofTheStore<T>(reading: Promise<T>): Promise<T> {
  return reading.catch((error: unknown) => {
    if (error instanceof PictureError && error.problem === 'missing')
      throw new PictureError('missing', said('file.noOriginal'), { cause: error });
    throw error;
  });
}

/** @throws PictureError where it cannot be used */
export const decodeOriginal = ({ original, mostPixels }: Original): Promise<DecodedPicture> =>
  ofTheStore(decodePicture(original, { pixels: mostPixels }));

/** @throws PictureError where it cannot be used */
export const headerOf = ({ original, mostPixels }: Original): Promise<PictureHeader> =>
  ofTheStore(readHeader(original, { pixels: mostPixels }));

/** The original's values as its file holds them. @throws PictureError where it cannot be used */
export async function pixelsOfOriginal(of: Original): Promise<Pixels> {
  const { raster, header } = await decodeOriginal(of);
  return pixelsOf(raster, header.transfer);
}
