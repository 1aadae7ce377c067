import { writeFile } from 'node:fs/promises';
import {
  ENCODE_DEFAULTS,
  PictureError,
  captureData,
  encodePicture,
  extractPage,
  readHeader,
} from '@fennip/files';
import type { PictureHeader } from '@fennip/files';
import type { CaptureData } from '@fennip/core/picture';
import { RasterError } from '@fennip/core/errors';
import type { PrintSigns } from '@fennip/core/examine';
import type { Fault } from '@fennip/core/fault';
import type { Assembly } from '@fennip/core/join';
import { joinScans, renderAssembly, seamFaults } from '@fennip/core/join';
import { printSigns } from '@fennip/core/examine';
import type { Said } from '@fennip/words';
import { said } from '@fennip/words';
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

/** Scans that hold the pieces of one print. */
export interface Joining {
  /** Paths of the files. */
  readonly originals: readonly string[];
  readonly mostPixels: number;
  /** Path of the file that is written. */
  readonly to: string;
}

/** How pieces were joined, and what of the joined picture is not its own. */
export interface JoinedPieces {
  readonly assembly: Assembly;
  readonly seams: readonly Fault[];
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

/** @throws PictureError where nothing can be joined */
function assembled(scans: Parameters<typeof joinScans>[0]): Assembly {
  let assembly: Assembly | null;
  try {
    assembly = joinScans(scans);
  } catch (error) {
    if (error instanceof RasterError)
      throw new PictureError('unsupported', said('join.unlike'), { cause: error });
    throw error;
  }
  if (!assembly) throw new PictureError('unsupported', said('join.noPiece'));
  if (assembly.pieces.length === 1) throw new PictureError('unsupported', said('join.onePiece'));
  if (assembly.joins.length === 0) throw new PictureError('unsupported', said('join.nothingFits'));
  return assembly;
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
  /** Writes the picture that the pieces on some scans make to a file of its own. */
  join: ({ originals, mostPixels, to }: Joining): Promise<Outcome<JoinedPieces>> =>
    outcomeOf(async () => {
      const scans = await Promise.all(originals.map((original) => decodeOriginal({ original, mostPixels })));
      const rasters = scans.map(({ raster }) => raster);
      const assembly = assembled(rasters);
      const picture = renderAssembly(rasters, assembly);
      const settings = { ...ENCODE_DEFAULTS, format: 'tiff', depth: picture.raster.depth } as const;
      await writeFile(to, await encodePicture(picture.raster, scans[0].header, settings));
      return { assembly, seams: seamFaults(picture) };
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
