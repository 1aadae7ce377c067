import { createHash, randomUUID } from 'node:crypto';
import { createReadStream } from 'node:fs';
import type { FileHandle } from 'node:fs/promises';
import { mkdir, open, readdir, rename, rm, stat } from 'node:fs/promises';
import { join } from 'node:path';
import type { Readable } from 'node:stream';

/** A file in the store, by the hash of what it holds. */
export interface StoredFile {
  readonly sha256: string;
  readonly sizeBytes: number;
}

/** A file that has arrived whole but is not yet part of the store. */
export interface Arrival extends StoredFile {
  readonly path: string;
}

/** More bytes came than may. */
export class TooLargeError extends Error {
  override readonly name = 'TooLargeError';
  constructor(readonly mostBytes: number) {
    super(`more than ${mostBytes} bytes`);
  }
}

export type Shelf = 'originals' | 'deliveries';

/**
 * Where the pixels are: one folder of files named by the hash of their content. A file is written under a passing
 * name, synced, and renamed when it is whole, so that what bears its final name is never half there.
 */
export interface Store {
  /** Writes a stream to disk, hashing on the way. @throws TooLargeError, after removing what was written */
  receive(stream: Readable, mostBytes: number): Promise<Arrival>;
  /** Gives an arrival its final name; one that is there already is the same file. */
  keep(arrival: Arrival, shelf: Shelf): Promise<void>;
  discard(arrival: Arrival): Promise<void>;
  pathOf(shelf: Shelf, sha256: string): string;
  /** The folder of a picture's pyramid. */
  pyramidPath(sha256: string): string;
  remove(shelf: Shelf | 'pyramids', sha256: string): Promise<void>;
  /** Removes passing files and whatever is not named in `known`; gives back what is named and missing. */
  tidy(known: Readonly<Record<Shelf, ReadonlySet<string>>>): Promise<string[]>;
}

const SHELVES: readonly Shelf[] = ['originals', 'deliveries'];

async function writeThrough(stream: Readable, file: FileHandle, mostBytes: number): Promise<StoredFile> {
  const hash = createHash('sha256');
  let sizeBytes = 0;
  for await (const chunk of stream as AsyncIterable<Buffer>) {
    sizeBytes += chunk.length;
    if (sizeBytes > mostBytes) throw new TooLargeError(mostBytes);
    hash.update(chunk);
    await file.write(chunk);
  }
  await file.sync();
  return { sha256: hash.digest('hex'), sizeBytes };
}

const exists = (path: string): Promise<boolean> =>
  stat(path).then(
    () => true,
    () => false,
  );

/** A store in a folder of the file system. */
export async function openStore(folder: string): Promise<Store> {
  const passing = join(folder, 'passing');
  for (const name of [...SHELVES, 'pyramids', 'passing'])
    await mkdir(join(folder, name), { recursive: true });
  const shelfPath = (shelf: string, sha256: string): string => join(folder, shelf, sha256);

  async function removeOthers(shelf: string, known: ReadonlySet<string>): Promise<void> {
    for (const name of await readdir(join(folder, shelf)))
      if (!known.has(name)) await rm(shelfPath(shelf, name), { force: true, recursive: true });
  }

  return {
    async receive(stream, mostBytes) {
      const path = join(passing, randomUUID());
      const file = await open(path, 'wx');
      try {
        return { path, ...(await writeThrough(stream, file, mostBytes)) };
      } catch (error) {
        await rm(path, { force: true });
        throw error;
      } finally {
        await file.close();
      }
    },
    async keep(arrival, shelf) {
      await rename(arrival.path, shelfPath(shelf, arrival.sha256));
      const directory = await open(join(folder, shelf), 'r');
      await directory.sync().finally(() => directory.close());
    },
    discard: (arrival) => rm(arrival.path, { force: true }),
    pathOf: shelfPath,
    pyramidPath: (sha256) => shelfPath('pyramids', sha256),
    remove: (shelf, sha256) => rm(shelfPath(shelf, sha256), { force: true, recursive: true }),
    async tidy(known) {
      await removeOthers('passing', new Set());
      for (const shelf of SHELVES) await removeOthers(shelf, known[shelf]);
      await removeOthers('pyramids', known.originals);
      const missing: string[] = [];
      for (const shelf of SHELVES)
        for (const sha256 of known[shelf])
          if (!(await exists(shelfPath(shelf, sha256)))) missing.push(`${shelf}/${sha256}`);
      return missing;
    },
  };
}

/** Reads a stored file as a stream, whole or a range of bytes (last one included). */
export const readStored = (path: string, range?: { start: number; end: number }): Readable =>
  createReadStream(path, range);
