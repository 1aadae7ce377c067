import { statfs } from 'node:fs/promises';
import { NoRoomError } from '../errors/noRoom.ts';

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
