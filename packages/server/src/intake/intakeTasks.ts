import { writeFile } from 'node:fs/promises';
import { PictureError, captureData, extractPage, readHeader } from '@fennip/files';
import type { PictureHeader } from '@fennip/files';
import type { CaptureData } from '@fennip/core/picture';
import type { PrintSigns } from '@fennip/core/examine';
import { printSigns } from '@fennip/core/examine';
import type { Said } from '@fennip/words';
import { NoRoomError, roomErrorOf } from '../errors/noRoom.ts';
import { writePyramid } from '../store/pyramid.ts';
import type { Original } from '../threads/tasks/original.ts';
import { decodeOriginal } from '../threads/tasks/original.ts';

/** What is kept of a picture file besides its pixels. */
export interface Inspected extends Pick<
  PictureHeader,
  'format' | 'width' | 'height' | 'depth' | 'channels' | 'pages' | 'transfer' | 'density'
> {
  readonly capture: CaptureData;
}

/** A picture of a file that holds several. */
export interface Extraction extends Original {
  /** From 0. */
  readonly page: number;
  /** Path of the file that is written. */
  readonly to: string;
}

/** Said while a pyramid is written. */
export interface LevelWritten {
  readonly level: number;
  readonly share: number;
}

/** Errors lose their class between processes: this is what one is that was foreseen. */
export type Outcome<T> = { readonly is: T } | { readonly refused: Said } | { readonly noRoom: true };

async function outcomeOf<T>(work: () => Promise<T>): Promise<Outcome<T>> {
  try {
    return { is: await work() };
  } catch (error) {
    if (error instanceof PictureError) return { refused: error.said };
    if (roomErrorOf(error) instanceof NoRoomError) return { noRoom: true };
    throw error;
  }
}

/** What the process that reads files from outside can be asked to do. */
export const intakeTasks = {
  /** Reads what a file says of its picture. */
  inspect: ({ original, mostPixels }: Original): Promise<Outcome<Inspected>> =>
    outcomeOf(async () => {
      const header = await readHeader(original, { pixels: mostPixels });
      const { format, width, height, depth, channels, pages, transfer, density } = header;
      return {
        ...{ format, width, height, depth, channels, pages, capture: captureData(header.exif) },
        ...(transfer ? { transfer } : {}),
        ...(density ? { density } : {}),
      };
    }),
  /** Writes one picture of a file that holds several to a file of its own. */
  extract: ({ original, mostPixels, page, to }: Extraction): Promise<Outcome<null>> =>
    outcomeOf(async () => {
      await writeFile(to, await extractPage(original, page, { pixels: mostPixels }));
      return null;
    }),
  /** Writes the pyramid of a picture into a folder. @returns what of the picture's values speaks for a print */
  prepare: (
    { folder, ...of }: Original & { readonly folder: string },
    say: (written: LevelWritten) => void,
  ): Promise<Outcome<PrintSigns>> =>
    outcomeOf(async () => {
      const { raster } = await decodeOriginal(of);
      await writePyramid(folder, raster, (level, share) => say({ level, share }));
      return printSigns(raster);
    }),
};
