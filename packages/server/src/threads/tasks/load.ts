import { collect } from '../collect.ts';
import type { LoadedPicture, Original } from './original.ts';
import { decodeOriginal } from './original.ts';

/** Decodes a picture into memory that threads share. */
export async function load(of: Original): Promise<LoadedPicture> {
  const { raster, header } = await decodeOriginal(of);
  collect();
  return { raster, ...(header.transfer ? { transfer: header.transfer } : {}) };
}
