import { readdir, stat } from 'node:fs/promises';
import { join } from 'node:path';
import { pyramidLevels } from '@fennip/core/raster';
import type { Depth } from '@fennip/core/raster';
import type { Database } from '../database/connect.ts';
import { hashFile } from '../store/hashFile.ts';
import { levelBytes, levelPath } from '../store/pyramid.ts';
import type { NamedFile } from './namedFiles.ts';
import { namedFiles } from './namedFiles.ts';

/** What does not agree between database and store. */
export interface StoreReport {
  readonly files: number;
  readonly bytes: number;
  /** Files that the database names and that are not there, are cut, or hold something else: lost unless there is a backup. */
  readonly broken: readonly string[];
  /** Levels of pictures that are not whole: they can be made again from the original. */
  readonly cutLevels: readonly string[];
  /** Files that nothing names: the server moves them to the bin of the store when it tidies. */
  readonly unknown: readonly string[];
}

const sizeOf = (path: string): Promise<number> =>
  stat(path).then(
    ({ size }) => size,
    () => -1,
  );

/** What is wrong with a file, in a few words; null where nothing is. */
async function faultOf(
  path: string,
  { sha256, sizeBytes }: NamedFile,
  readAll: boolean,
): Promise<string | null> {
  const size = await sizeOf(path);
  if (size < 0) return 'is missing';
  if (size !== sizeBytes) return `has ${size} of ${sizeBytes} bytes`;
  return readAll && (await hashFile(path)).sha256 !== sha256 ? 'holds something else' : null;
}

interface PreparedRow {
  readonly sha256: string;
  readonly width: number;
  readonly height: number;
  readonly channels: number;
  readonly depth: Depth;
}

/** The levels of pictures that are ready and do not have their size. */
async function cutLevels(database: Database, folder: string): Promise<string[]> {
  const rows: PreparedRow[] = await database('all_pictures')
    .where('state', 'ready')
    .distinctOn('sha256')
    .orderBy('sha256')
    .select('sha256', 'width', 'height', 'channels', 'depth');
  const cut: string[] = [];
  for (const { sha256, width, height, channels, depth } of rows)
    for (const [level, sides] of pyramidLevels(width, height).entries()) {
      const path = levelPath(join(folder, 'pyramids', sha256), level);
      if ((await sizeOf(path)) !== levelBytes(sides, channels, depth))
        cut.push(`pyramids/${sha256}/${level}`);
    }
  return cut;
}

/**
 * Holds the store against the database. Nothing is changed.
 *
 * @param reads 'sizes' looks at the sizes of files, 'contents' reads all of them
 */
export async function checkStore(
  database: Database,
  folder: string,
  reads: 'sizes' | 'contents',
): Promise<StoreReport> {
  const named = await namedFiles(database);
  const broken: string[] = [];
  for (const file of named) {
    const name = `${file.shelf}/${file.sha256}`;
    const fault = await faultOf(join(folder, name), file, reads === 'contents');
    if (fault) broken.push(`${name} ${fault}`);
  }
  const known = new Set(named.map(({ shelf, sha256 }) => `${shelf}/${sha256}`));
  const unknown: string[] = [];
  for (const shelf of ['originals', 'deliveries'])
    for (const name of await readdir(join(folder, shelf)))
      if (!known.has(`${shelf}/${name}`)) unknown.push(`${shelf}/${name}`);
  return {
    files: named.length,
    bytes: named.reduce((sum, { sizeBytes }) => sum + sizeBytes, 0),
    broken,
    cutLevels: await cutLevels(database, folder),
    unknown,
  };
}
