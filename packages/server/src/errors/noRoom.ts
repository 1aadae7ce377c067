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
