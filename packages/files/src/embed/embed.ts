import type { CarriedData } from '../carriedData.ts';
import type { PictureFormat } from '../decode/sniff.ts';
import type { Raster } from '@fennip/core/raster';
import { embedInJpeg } from './jpeg.ts';
import { embedInPng } from './png.ts';
import { embedInTiff } from './tiff.ts';
import { embedInWebp } from './webp.ts';

/** Puts what a picture carries beside its pixels into an encoded file, without touching the pixels. */
export function embed(bytes: Buffer, format: PictureFormat, carried: CarriedData, raster: Raster): Buffer {
  switch (format) {
    case 'jpeg':
      return embedInJpeg(bytes, carried);
    case 'png':
      return embedInPng(bytes, carried);
    case 'tiff':
      return embedInTiff(bytes, carried);
    case 'webp':
      return embedInWebp(bytes, carried, raster.width, raster.height, raster.planes.length % 2 === 0);
  }
}
