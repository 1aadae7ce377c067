import type { Raster } from '@fennip/core/raster';
import type { Sharp } from 'sharp';
import type { CarriedData } from '../embed/carriedData.ts';

/** What can be set about how a format is written. */
export interface WriteOptions {
  /** 1 to 100. */
  readonly quality: number;
  /** True if colour is kept at full resolution; by quality where it is missing. */
  readonly chroma?: '4:4:4' | '4:2:0';
  /** Deflate where it is missing. */
  readonly compression?: 'deflate' | 'lzw';
}

/** How one format is written. What it can hold stands in core's list of written formats, under the same name. */
export interface Writer {
  /** Encodes the samples. @param pixels how many there are */
  compress(pipeline: Sharp, pixels: number, options: WriteOptions): Sharp;
  /** Puts what a picture carries beside its pixels into an encoded file, without touching the pixels. */
  embed(bytes: Buffer, carried: CarriedData, raster: Raster): Buffer;
}
