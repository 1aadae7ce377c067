import { createHash } from 'node:crypto';
import { mkdtemp, readFile, readdir, rm, stat, statfs, truncate, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { Readable } from 'node:stream';
import { mulberry } from '@fennip/core/random';
import { createRaster, pyramidLevels } from '@fennip/core/raster';
import fc from 'fast-check';
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import { levelPath, tileRange, writePyramid } from './pyramid.ts';
import { NoRoomError } from '../errors/noRoom.ts';
import { DamagedFileError, TooLargeError, openStore } from './store.ts';

let folder = '';
beforeEach(async () => {
  folder = await mkdtemp(join(tmpdir(), 'fennip-store-'));
});
afterEach(() => rm(folder, { recursive: true }));

const streamOf = (...parts: string[]): Readable => Readable.from(parts.map((part) => Buffer.from(part)));

describe('the store', () => {
  it('names a file by what it holds, and keeps one of two that are the same', async () => {
    const store = await openStore(folder, { keptBytes: 0 });
    const hash = createHash('sha256').update('a print').digest('hex');
    for (const parts of [['a pri', 'nt'], ['a print']]) {
      const arrival = await store.receive(streamOf(...parts), 100);
      expect(arrival).toMatchObject({ sha256: hash, sizeBytes: 7 });
      await store.keep(arrival, 'originals');
    }
    expect(await readdir(join(folder, 'originals'))).toEqual([hash]);
    expect(await readFile(store.pathOf('originals', hash), 'utf8')).toBe('a print');
    expect(await readdir(join(folder, 'passing'))).toEqual([]);
  });

  it('leaves nothing of a file that is too large or breaks off', async () => {
    const store = await openStore(folder, { keptBytes: 0 });
    await expect(store.receive(streamOf('12345', '67890'), 9)).rejects.toThrow(TooLargeError);
    const broken = new Readable({ read: () => undefined });
    setTimeout(() => broken.destroy(new Error('the line is dead')), 10);
    await expect(store.receive(broken, 9)).rejects.toThrow('the line is dead');
    expect(await readdir(join(folder, 'passing'))).toEqual([]);
  });

  it('says which files are missing when it is tidied', async () => {
    const store = await openStore(folder, { keptBytes: 0 });
    const { missing } = await store.tidy({ originals: new Set(['abc']), deliveries: new Set() });
    expect(missing).toEqual(['originals/abc']);
  });

  it('puts what nothing names into its bin, but not what another server may be about to name', async () => {
    const store = await openStore(folder, { keptBytes: 0 });
    const known = { originals: new Set<string>(), deliveries: new Set<string>() };
    const arrival = await store.receive(streamOf('an only original'), 100);
    await store.keep(arrival, 'originals');
    expect((await store.tidy(known)).binned).toEqual([]);
    // The clock goes on by two hours: what changed a file last cannot be set.
    vi.setSystemTime(Date.now() + 7_200_000);
    expect((await store.tidy(known)).binned).toEqual([`originals/${arrival.sha256}`]);
    vi.useRealTimers();
    expect(await readdir(join(folder, 'originals'))).toEqual([]);
    const names = await readdir(join(folder, 'bin'), { recursive: true });
    const file = names.find((name) => name.includes(arrival.sha256));
    expect(await readFile(join(folder, 'bin', file ?? ''), 'utf8')).toBe('an only original');
  });

  it('never writes over what it holds, and heals what was damaged', async () => {
    const store = await openStore(folder, { keptBytes: 0 });
    const keepPrint = async (): Promise<string> => {
      const arrival = await store.receive(streamOf('a print'), 100);
      await store.keep(arrival, 'originals');
      return store.pathOf('originals', arrival.sha256);
    };
    const path = await keepPrint();
    const { ino } = await stat(path);
    await keepPrint();
    expect((await stat(path)).ino).toBe(ino);
    await truncate(path, 3);
    await keepPrint();
    expect(await readFile(path, 'utf8')).toBe('a print');
    const binned = await readdir(join(folder, 'bin'), { recursive: true });
    expect(binned.some((name) => name.includes('originals/'))).toBe(true);
  });

  it('does not adopt a file that holds something else than its hash says', async () => {
    const store = await openStore(folder, { keptBytes: 0 });
    const path = store.passingPath();
    await writeFile(path, 'half of a deliv');
    const sha256 = createHash('sha256').update('half of a delivery').digest('hex');
    await expect(store.adopt({ path, sha256, sizeBytes: 18 })).rejects.toThrow(DamagedFileError);
    await expect(store.adopt({ path, sha256, sizeBytes: 15 })).rejects.toThrow();
    expect(await readdir(join(folder, 'passing'))).toEqual([]);
  });

  it('takes nothing where the disk would be left with less room than is kept', async () => {
    // All of the disk: what is free of it changes under what else is done there.
    const { blocks, bsize } = await statfs(folder);
    const store = await openStore(folder, { keptBytes: blocks * bsize });
    await expect(store.receive(streamOf('a print'), 100)).rejects.toThrow(NoRoomError);
    await expect(store.receive(streamOf('a print'), 100, 7)).rejects.toThrow(NoRoomError);
    await expect(store.checkRoom(1)).rejects.toThrow(NoRoomError);
    expect(await readdir(join(folder, 'passing'))).toEqual([]);
  });
});

describe('the files of a pyramid', () => {
  it('have a range for every tile; ranges follow one another and fill the file', () => {
    const side = fc.integer({ min: 1, max: 2600 });
    fc.assert(
      fc.property(
        side,
        side,
        fc.constantFrom(1, 3, 4),
        fc.constantFrom(8 as const, 16 as const),
        (width, height, channels, depth) => {
          let next = 0;
          for (let row = 0; row * 512 < height; row++)
            for (let column = 0; column * 512 < width; column++) {
              const range = tileRange({ width, height }, column, row, channels, depth);
              expect(range?.start).toBe(next);
              next = (range?.end ?? 0) + 1;
            }
          expect(next).toBe((width * height * channels * depth) / 8);
          expect(tileRange({ width, height }, Math.ceil(width / 512), 0, channels, depth)).toBeNull();
          expect(tileRange({ width, height }, 0, -1, channels, depth)).toBeNull();
        },
      ),
    );
  });

  it('hold what the raster holds, the smallest level written first', async () => {
    const uniform = mulberry(3);
    const raster = createRaster(700, 530, 1, 16);
    for (let i = 0; i < raster.planes[0].length; i++) raster.planes[0][i] = 65535 * uniform();
    const order: number[] = [];
    await writePyramid(folder, raster, (level) => order.push(level));
    expect(order).toEqual([1, 0]);
    expect(order).toHaveLength(pyramidLevels(700, 530).length);
    const range = tileRange({ width: 700, height: 530 }, 1, 1, 1, 16);
    const bytes = (await readFile(levelPath(folder, 0))).subarray(range?.start, (range?.end ?? 0) + 1);
    expect(bytes.readUInt16LE(0)).toBe(raster.planes[0][512 * 700 + 512]);
    expect(bytes.readUInt16LE(bytes.length - 2)).toBe(raster.planes[0][530 * 700 - 1]);
  });
});
