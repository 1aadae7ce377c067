import { availableParallelism } from 'node:os';
import { PictureError } from '@fennip/files';
import type { PrintSigns } from '@fennip/core/examine';
import type { TaskBounds } from '@fennip/threads';
import { ProcessEndedError, startTaskProcesses } from '@fennip/threads';
import { said } from '@fennip/words';
import { NoRoomError } from '../errors/noRoom.ts';
import type { Inspected, JoinedPieces, LevelWritten, Outcome, intakeTasks } from './intakeTasks.ts';

/** Reads files that come from outside, in processes of their own: one that ends its reader is refused, and nothing else ends. */
export interface Intake {
  /** @throws PictureError when the file cannot be used */
  inspect(original: string): Promise<Inspected>;
  /**
   * Writes the pyramid. @returns what of the picture's values speaks for a print
   *
   * @param pixels of the picture, as its header has it
   * @throws PictureError when the picture cannot be used
   * @throws NoRoomError
   */
  prepare(
    original: string,
    folder: string,
    pixels: number,
    written: (level: LevelWritten) => void,
  ): Promise<PrintSigns>;
  /**
   * Writes one picture of a file that holds several to a file of its own.
   *
   * @param page from 0
   * @param pixels of the first of them
   * @throws PictureError when there is no such page, or it cannot be used
   * @throws NoRoomError
   */
  extract(original: string, page: number, to: string, pixels: number): Promise<void>;
  /**
   * Writes the picture that the pieces of a print make to a file of its own.
   *
   * @param originals paths of the scans they lie on
   * @param pixels of all of them
   * @throws PictureError when nothing on them can be joined
   * @throws NoRoomError
   */
  join(originals: readonly string[], to: string, pixels: number): Promise<JoinedPieces>;
  close(): Promise<void>;
}

/** A header is read in a fraction of a second, the largest picture prepared in some forty (150 megapixels, 16 bit). */
const INSPECTING: TaskBounds = { mostMs: 30_000, mostBytes: 1e9 };
const PREPARING: TaskBounds = { mostMs: 300_000, mostBytes: 1e9 };
const JOINING: TaskBounds = { mostMs: 300_000, mostBytes: 1e9 };
/** Bytes for each pixel of a scan: decoded, as numbers of 32 bit in three channels, and what is made of it. */
const BYTES_A_JOINED_PIXEL = 64;
/** Bytes for each pixel of a picture of 16 bit with alpha: decoded, turned into planes, and all smaller levels. */
const BYTES_A_PIXEL = 24;

export function startIntake(mostPixels: number): Intake {
  // A header is read at once, also while as many pictures are prepared as the machine has threads.
  const { run, close } = startTaskProcesses<typeof intakeTasks>(
    new URL('./intakeProcess.ts', import.meta.url),
    availableParallelism() + 1,
  );

  async function outcome<T>(work: Promise<Outcome<T>>): Promise<T> {
    const ended = await work.catch((error: unknown) => {
      if (error instanceof ProcessEndedError && error.reason !== 'closed')
        throw new PictureError('broken', said('file.endedReader'), { cause: error });
      throw error;
    });
    if ('refused' in ended) throw new PictureError('broken', ended.refused);
    if ('noRoom' in ended) throw new NoRoomError(null, null);
    return ended.is;
  }

  const preparing = (pixels: number): TaskBounds => ({
    ...PREPARING,
    mostBytes: PREPARING.mostBytes + BYTES_A_PIXEL * pixels,
  });

  return {
    inspect: (original) => outcome(run('inspect', { original, mostPixels }, INSPECTING)),
    prepare: (original, folder, pixels, written) => {
      return outcome(run('prepare', { original, folder, mostPixels }, preparing(pixels), written));
    },
    extract: async (original, page, to, pixels) => {
      await outcome(run('extract', { original, mostPixels, page, to }, preparing(pixels)));
    },
    join: (originals, to, pixels) => {
      const bounds = { ...JOINING, mostBytes: JOINING.mostBytes + BYTES_A_JOINED_PIXEL * pixels };
      return outcome(run('join', { originals, mostPixels, to }, bounds));
    },
    close,
  };
}
