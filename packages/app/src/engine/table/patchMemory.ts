import type { Patch, Window } from '@fennip/core/raster';
import type { PatchMemory, PatchWork } from '@fennip/core/recipe';
import { cloneRaster } from '@fennip/core/raster';
import type { DBSchema, IDBPDatabase } from 'idb';
import { openDB } from 'idb';

interface PatchSchema extends DBSchema {
  patches: { key: string; value: Patch };
  /** How much each takes up, and when it was last asked for, in milliseconds since 1970. */
  uses: { key: string; value: { bytes: number; used: number }; indexes: { used: number } };
}

/** How much is kept. */
export interface Room {
  /** As much in all; what was not asked for the longest goes first. */
  readonly bytes: number;
  /** It is looked again at how much there is after so many. */
  readonly lookAfter: number;
}

const ROOM: Room = { bytes: 256e6, lookAfter: 64 };
/** One use a day is noted: to write takes longer than to read. */
const NOTED_AFTER_MS = 24 * 3600 * 1000;

const bytesOf = ({ values, coverage }: Patch): number =>
  coverage.byteLength + values.reduce((sum, { byteLength }) => sum + byteLength, 0);

async function digest(bytes: BufferSource): Promise<string> {
  const hash = new Uint8Array(await crypto.subtle.digest('SHA-256', bytes));
  return Array.from(hash, (byte) => byte.toString(16).padStart(2, '0')).join('');
}

/** Samples of a window by themselves: a part of a larger raster shares its memory. */
const samplesOf = ({ raster }: Window): ArrayBuffer => cloneRaster(raster).planes[0].buffer as ArrayBuffer;

/** Lets go of what was not asked for the longest until there is room. */
async function makeRoom(database: IDBPDatabase<PatchSchema>, most: number): Promise<void> {
  const change = database.transaction(['patches', 'uses'], 'readwrite');
  let bytes = 0;
  const newestFirst = change.objectStore('uses').index('used').openCursor(null, 'prev');
  for (let at = await newestFirst; at; at = await at.continue()) {
    bytes += at.value.bytes;
    if (bytes <= most) continue;
    await change.objectStore('patches').delete(at.primaryKey);
    await at.delete();
  }
  await change.done;
}

async function noteUse(database: IDBPDatabase<PatchSchema>, key: string): Promise<void> {
  const use = await database.get('uses', key);
  if (use && Date.now() - use.used > NOTED_AFTER_MS)
    await database.put('uses', { ...use, used: Date.now() }, key);
}

/** The same for the same work, and for no other. */
async function keyOf(build: string, { document, fences, windows }: PatchWork): Promise<string> {
  const places = windows.map(({ left, top, picture, raster: { width, height, depth, planes } }) => ({
    ...{ left, top, width, height, depth, channels: planes.length, picture },
  }));
  const words = new TextEncoder().encode(JSON.stringify({ build, document, fences, places }));
  return (await Promise.all([words, ...windows.map(samplesOf)].map(digest))).join();
}

/**
 * What mends made, kept in the browser over sessions, so that a picture that is opened again is soon seen as it was
 * left. Nothing depends on it: where the browser keeps nothing, mends are worked out.
 *
 * @param build what of the program makes patches: another one may make others of the same work
 */
export function createPatchMemory(build: string, room = ROOM): PatchMemory {
  let opening: Promise<IDBPDatabase<PatchSchema>> | null = null;
  let sinceLook = 0;
  const keys = new WeakMap<PatchWork, Promise<string>>();

  const opened = (): Promise<IDBPDatabase<PatchSchema>> =>
    (opening ??= openDB<PatchSchema>('fennip-patches', 1, {
      upgrade(database) {
        database.createObjectStore('patches');
        database.createObjectStore('uses').createIndex('used', 'used');
      },
    }));

  function keyFor(work: PatchWork): Promise<string> {
    const key = keys.get(work) ?? keyOf(build, work);
    keys.set(work, key);
    return key;
  }

  async function find(work: PatchWork): Promise<Patch | null> {
    const [database, key] = await Promise.all([opened(), keyFor(work)]);
    const patch = (await database.get('patches', key)) ?? null;
    // Nobody waits for it to be noted.
    if (patch) noteUse(database, key).catch(() => undefined);
    return patch;
  }

  async function keep(work: PatchWork, patch: Patch): Promise<void> {
    const [database, key] = await Promise.all([opened(), keyFor(work)]);
    const change = database.transaction(['patches', 'uses'], 'readwrite');
    await change.objectStore('patches').put(patch, key);
    await change.objectStore('uses').put({ bytes: bytesOf(patch), used: Date.now() }, key);
    await change.done;
    if (sinceLook++ % room.lookAfter === 0) await makeRoom(database, room.bytes);
  }

  return {
    find: (work) => find(work).catch(() => null),
    keep: (work, patch) => void keep(work, patch).catch(() => undefined),
  };
}
