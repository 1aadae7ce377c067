import { createHash, randomUUID } from 'node:crypto';
import type { FileHandle } from 'node:fs/promises';
import { link, mkdir, open, readdir, rename, rm, stat } from 'node:fs/promises';
import { join } from 'node:path';
import type { Readable } from 'node:stream';
import type { StoredFile } from './hashFile.ts';
import { hashFile } from './hashFile.ts';
import { roomErrorOf } from '../errors/noRoom.ts';
import { checkRoom } from './room.ts';

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

/** What lies on disk is not what was written. */
export class DamagedFileError extends Error {
  override readonly name = 'DamagedFileError';
  constructor(readonly path: string) {
    super(`${path} does not hold what was written`);
  }
}

export type Shelf = 'originals' | 'deliveries';

/** What a start finds in a store that does not agree with the database. */
export interface StoreFindings {
  /** Named by the database and not there, as `shelf/hash`. */
  readonly missing: readonly string[];
  /** There, named by nothing, and now in the bin: as `shelf/hash`. */
  readonly binned: readonly string[];
}

/** Bounds on what is written. */
export interface Room {
  /** Bytes of the disk that stay free for the database. */
  readonly keptBytes: number;
}

/**
 * Where the pixels are: one folder of files named by the hash of their content. A file is written under a passing
 * name, synced, read again, and linked to its final name when it is whole, so that what bears its final name is never
 * half there, and is never written over.
 */
export interface Store {
  readonly folder: string;
  /**
   * Writes a stream to disk, hashing on the way. What was written goes where it fails.
   *
   * @param announcedBytes how many will come, where that is known: checked against the room on disk before the first is read
   * @throws TooLargeError
   * @throws NoRoomError
   * @throws DamagedFileError
   */
  receive(stream: Readable, mostBytes: number, announcedBytes?: number): Promise<Arrival>;
  /** A name for a file that is written elsewhere, unknown to anyone else. */
  passingPath(): string;
  /** A file that was written to a passing name, once it was read again. @throws DamagedFileError where it is another */
  adopt(arrival: Arrival): Promise<Arrival>;
  /**
   * Gives an arrival its final name. Content that is there already stays as it is; where that was damaged it goes to the
   * bin, and the arrival takes its place. Who calls holds the lock of the content, see `withContent`.
   */
  keep(arrival: Arrival, shelf: Shelf): Promise<void>;
  discard(arrival: Pick<Arrival, 'path'>): Promise<void>;
  pathOf(shelf: Shelf, sha256: string): string;
  /** The folder of a picture's pyramid. */
  pyramidPath(sha256: string): string;
  remove(shelf: Shelf | 'pyramids', sha256: string): Promise<void>;
  /** @throws NoRoomError where so many bytes do not fit */
  checkRoom(neededBytes: number): Promise<void>;
  /**
   * Moves to the bin what the database does not name, and removes passing files. Whatever is younger than an hour stays:
   * another server may be about to name it.
   */
  tidy(known: Readonly<Record<Shelf, ReadonlySet<string>>>): Promise<StoreFindings>;
}

const SHELVES: readonly Shelf[] = ['originals', 'deliveries'];
/** A file that a server still writes, or has written and not named yet, is younger. */
const SETTLED_MS = 3_600_000;
/** How often the room on disk is looked at while a file comes, in bytes. */
const ROOM_EVERY = 16e6;

async function writeThrough(
  stream: Readable,
  file: FileHandle,
  mostBytes: number,
  hasRoom: (neededBytes: number) => Promise<void>,
): Promise<StoredFile> {
  const hash = createHash('sha256');
  let sizeBytes = 0;
  let checkedTo = 0;
  // Not ended where it is refused: its sender is to be told why.
  for await (const chunk of stream.iterator({ destroyOnReturn: false }) as AsyncIterable<Buffer>) {
    sizeBytes += chunk.length;
    if (sizeBytes > mostBytes) throw new TooLargeError(mostBytes);
    if (sizeBytes > checkedTo) {
      await hasRoom(1);
      checkedTo = sizeBytes + ROOM_EVERY;
    }
    hash.update(chunk);
    // Unlike `write`, it goes on until all is written.
    await file.writeFile(chunk);
  }
  await file.sync();
  return { sha256: hash.digest('hex'), sizeBytes };
}

const ageOf = (path: string): Promise<number> =>
  stat(path).then(
    // The time of the last change to the name or the content.
    ({ ctimeMs }) => Date.now() - ctimeMs,
    () => 0,
  );

const exists = (path: string): Promise<boolean> =>
  stat(path).then(
    () => true,
    () => false,
  );

/** Makes the names in a folder outlive a loss of power. */
async function syncFolder(path: string): Promise<void> {
  const folder = await open(path, 'r');
  await folder.sync().finally(() => folder.close());
}

/** True if a file holds what its hash says. */
async function isWhole(path: string, { sha256, sizeBytes }: StoredFile): Promise<boolean> {
  if ((await stat(path)).size !== sizeBytes) return false;
  return (await hashFile(path)).sha256 === sha256;
}

/** The same arrival, once what lies on disk was read again. */
async function verified(arrival: Arrival): Promise<Arrival> {
  if (await isWhole(arrival.path, arrival)) return arrival;
  await rm(arrival.path, { force: true });
  throw new DamagedFileError(arrival.path);
}

/** A store in a folder of the file system. */
export async function openStore(folder: string, { keptBytes }: Room): Promise<Store> {
  const passing = join(folder, 'passing');
  for (const name of [...SHELVES, 'pyramids', 'passing', 'bin'])
    await mkdir(join(folder, name), { recursive: true });
  const shelfPath = (shelf: string, sha256: string): string => join(folder, shelf, sha256);
  const hasRoom = (neededBytes: number): Promise<void> => checkRoom(folder, neededBytes, keptBytes);

  /** Puts a file aside, under the day on which that was done. */
  async function moveToBin(shelf: string, name: string): Promise<void> {
    const day = join(folder, 'bin', new Date().toISOString().slice(0, 10), shelf);
    await mkdir(day, { recursive: true });
    await rename(shelfPath(shelf, name), join(day, `${name}.${randomUUID().slice(0, 8)}`));
  }

  async function removePassing(): Promise<void> {
    for (const name of await readdir(passing))
      if ((await ageOf(join(passing, name))) > SETTLED_MS) await rm(join(passing, name), { force: true });
  }

  async function binUnknown(shelf: Shelf, known: ReadonlySet<string>): Promise<string[]> {
    const binned: string[] = [];
    for (const name of await readdir(join(folder, shelf))) {
      if (known.has(name) || (await ageOf(shelfPath(shelf, name))) < SETTLED_MS) continue;
      await moveToBin(shelf, name);
      binned.push(`${shelf}/${name}`);
    }
    return binned;
  }

  /** A pyramid is made from its original again: one of an original that is gone is nothing to keep. */
  async function removePyramids(originals: ReadonlySet<string>): Promise<void> {
    for (const name of await readdir(join(folder, 'pyramids')))
      if (!originals.has(name) && (await ageOf(shelfPath('pyramids', name))) > SETTLED_MS)
        await rm(shelfPath('pyramids', name), { force: true, recursive: true });
  }

  return {
    folder,
    async receive(stream, mostBytes, announcedBytes) {
      const path = join(passing, randomUUID());
      if (announcedBytes !== undefined) await hasRoom(announcedBytes);
      const file = await open(path, 'wx');
      try {
        return await verified({ path, ...(await writeThrough(stream, file, mostBytes, hasRoom)) });
      } catch (error) {
        await rm(path, { force: true });
        throw roomErrorOf(error);
      } finally {
        await file.close();
      }
    },
    passingPath: () => join(passing, randomUUID()),
    adopt: verified,
    async keep(arrival, shelf) {
      const path = shelfPath(shelf, arrival.sha256);
      try {
        if ((await exists(path)) && !(await isWhole(path, arrival))) await moveToBin(shelf, arrival.sha256);
        // Unlike `rename`, it never takes the place of what is there.
        await link(arrival.path, path);
      } catch (error) {
        if (!(error instanceof Error && 'code' in error && error.code === 'EEXIST')) throw roomErrorOf(error);
      } finally {
        await rm(arrival.path, { force: true });
      }
      await syncFolder(join(folder, shelf));
    },
    discard: (arrival) => rm(arrival.path, { force: true }),
    pathOf: shelfPath,
    pyramidPath: (sha256) => shelfPath('pyramids', sha256),
    remove: (shelf, sha256) =>
      // A level may be written while its folder is being emptied.
      rm(shelfPath(shelf, sha256), { force: true, recursive: true, maxRetries: 5 }),
    checkRoom: hasRoom,
    async tidy(known) {
      await removePassing();
      const binned: string[] = [];
      for (const shelf of SHELVES) binned.push(...(await binUnknown(shelf, known[shelf])));
      await removePyramids(known.originals);
      const missing: string[] = [];
      for (const shelf of SHELVES)
        for (const sha256 of known[shelf])
          if (!(await exists(shelfPath(shelf, sha256)))) missing.push(`${shelf}/${sha256}`);
      return { missing, binned };
    },
  };
}
