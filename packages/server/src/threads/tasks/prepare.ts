import type { PrintSigns } from '@fennip/core/examine';
import { printSigns } from '@fennip/core/examine';
import type { MessagePort } from 'node:worker_threads';
import { writePyramid } from '../../store/pyramid.ts';
import type { Original } from './original.ts';
import { decodeOriginal } from './original.ts';

/** Sent to the port while a pyramid is written. */
export interface LevelWritten {
  readonly level: number;
  readonly share: number;
}

/** Writes the pyramid of a picture into a folder. @returns what of the picture's values speaks for a print */
export async function prepare({
  folder,
  port,
  ...of
}: Original & { readonly folder: string; readonly port: MessagePort }): Promise<PrintSigns> {
  const { raster } = await decodeOriginal(of);
  await writePyramid(folder, raster, (level, share) =>
    port.postMessage({ level, share } satisfies LevelWritten),
  );
  return printSigns(raster);
}
