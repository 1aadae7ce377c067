import type { LedgerEntry } from '@fennip/core/ledger';
import type { Raster } from '@fennip/core/raster';
import type { Recipe } from '@fennip/core/recipe';
import type { DeliverySettings } from '@fennip/files';
import { deliverLayers, deliverPicture } from '@fennip/files';
import { createHash } from 'node:crypto';
import { open } from 'node:fs/promises';
import type { StoredFile } from '../../store/hashFile.ts';
import type { Original } from './original.ts';
import { decodeOriginal, headerOf } from './original.ts';

/** A delivered file: the data of its original are carried over. */
interface Delivered extends Original {
  /** Path of the file to write. */
  readonly onto: string;
}

async function write(bytes: Buffer, onto: string): Promise<StoredFile> {
  const file = await open(onto, 'w');
  try {
    await file.writeFile(bytes);
    await file.sync();
  } finally {
    await file.close();
  }
  return { sha256: createHash('sha256').update(bytes).digest('hex'), sizeBytes: bytes.length };
}

/** Writes a picture as it was finished and framed. */
export async function encode({
  raster,
  settings,
  onto,
  ...of
}: Delivered & { readonly raster: Raster; readonly settings: DeliverySettings }): Promise<StoredFile> {
  return write(await deliverPicture(raster, await headerOf(of), settings), onto);
}

/** Writes a picture with its mends as layers, named by the lines of the ledger. */
export async function encodeLayers({
  recipe,
  entries,
  onto,
  ...of
}: Delivered & {
  readonly recipe: Recipe;
  readonly entries: readonly LedgerEntry[];
}): Promise<StoredFile> {
  const { raster, header } = await decodeOriginal(of);
  return write(await deliverLayers(raster, header, recipe, entries), onto);
}
