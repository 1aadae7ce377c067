import { statfs } from 'node:fs/promises';

/** The disk has no room for what is to be written: nothing of it stays. */
export class NoRoomError extends Error {
  override readonly name = 'NoRoomError';
  constructor(
    /** Bytes that are to be written; null where nobody knew before. */
    readonly neededBytes: number | null,
    /** Bytes that may still be written; null where it was not asked. */
    readonly freeBytes: number | null,
  ) {
    super(`no room on disk: ${neededBytes ?? 'more'} bytes needed, ${freeBytes ?? 'none'} free`);
  }
}

/** What the file system says where nothing more goes in: the disk, or what one user may take of it. */
const FULL: readonly unknown[] = ['ENOSPC', 'EDQUOT'];

/** The same error, or one that says that the disk is full where this is what it means. */
export const roomErrorOf = (error: unknown): unknown =>
  error instanceof Error && 'code' in error && FULL.includes(error.code)
    ? new NoRoomError(null, null)
    : error;

/** Bytes that may still be written on the disk of a folder. */
async function freeBytes(folder: string): Promise<number> {
  const { bavail, bsize } = await statfs(folder);
  return bavail * bsize;
}

/**
 * Checks that so many bytes fit on the disk of a folder and leave room for what shares it.
 *
 * @param keptBytes that must stay free: a database that cannot write stops
 * @throws NoRoomError where they do not
 */
export async function checkRoom(folder: string, neededBytes: number, keptBytes: number): Promise<void> {
  const free = Math.max(0, (await freeBytes(folder)) - keptBytes);
  if (neededBytes > free) throw new NoRoomError(neededBytes, free);
}
