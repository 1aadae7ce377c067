import { mkdtemp, readFile, readdir, rm, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { mulberry } from '@fennip/core/random';
import { PictureError } from '@fennip/files';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { Intake } from '../../packages/server/src/intake/startIntake.ts';
import { startIntake } from '../../packages/server/src/intake/startIntake.ts';
import { times } from './extent.ts';
import { seedFiles } from './seeds.ts';

/** A file of every format that is read, and parts of them in each other: what a broken disk or an attacker makes of them. */
function mutated(files: readonly Buffer[], chance: () => number): Buffer {
  const pick = (most: number): number => Math.floor(chance() * most);
  const bytes = Buffer.from(files[pick(files.length)]);
  const changes = 1 + pick(12);
  for (let k = 0; k < changes; k++) {
    // Headers are what most of the code reads.
    const at = pick(chance() < 0.7 ? Math.min(bytes.length, 600) : bytes.length);
    const what = chance();
    if (what < 0.4) bytes[at] = pick(256);
    else if (what < 0.6) bytes[at] ^= 1 << pick(8);
    else if (what < 0.75) bytes.fill(chance() < 0.5 ? 0xff : 0, at, at + 1 + pick(8));
    else if (what < 0.9) {
      const other = files[pick(files.length)];
      other.copy(bytes, at, pick(other.length), pick(other.length));
    } else bytes.writeUInt16LE(pick(65536), Math.min(at, bytes.length - 2));
  }
  return chance() < 0.15 ? bytes.subarray(0, pick(bytes.length)) : bytes;
}

describe('files from outside', () => {
  let folder = '';
  let intake: Intake;
  let files: Buffer[];
  beforeAll(async () => {
    folder = await mkdtemp(join(tmpdir(), 'fennip-fuzz-'));
    intake = startIntake(20e6);
    files = await seedFiles();
  });
  afterAll(async () => {
    await intake.close();
    await rm(folder, { recursive: true });
  });

  /** How one file ended: taken, refused, or in a way that nobody foresaw. */
  async function outcomeOf(path: string): Promise<'taken' | 'refused' | Error> {
    try {
      const { width, height } = await intake.inspect(path);
      await intake.prepare(path, `${path}.pyramid`, width * height, () => undefined);
      return 'taken';
    } catch (error) {
      if (error instanceof PictureError) return 'refused';
      return error as Error;
    }
  }

  it('are taken or refused with a sentence, whatever was done to them', async () => {
    const chance = mulberry(7);
    const counts = { taken: 0, refused: 0 };
    let slowest = 0;
    const total = times(300, 10_000);
    const one = async (k: number): Promise<void> => {
      const path = join(folder, `${k}.bin`);
      await writeFile(path, mutated(files, chance));
      const begun = Date.now();
      const outcome = await outcomeOf(path);
      slowest = Math.max(slowest, Date.now() - begun);
      if (outcome instanceof Error)
        throw new Error(`file ${k} of seed 7 ended unforeseen`, { cause: outcome });
      counts[outcome]++;
      await rm(path);
      await rm(`${path}.pyramid`, { recursive: true, force: true });
    };
    for (let k = 0; k < total; k += 2) await Promise.all([one(k), one(k + 1)]);
    expect(counts.taken + counts.refused).toBe(total);
    // Both happen, or nothing was tried.
    expect(Math.min(counts.taken, counts.refused)).toBeGreaterThan(total / 50);
    expect(slowest).toBeLessThan(30_000);
    console.warn(`${total} files: ${counts.taken} taken, ${counts.refused} refused, slowest ${slowest} ms`);
  });

  it('that are whole are taken', async () => {
    for (const [k, bytes] of files.entries()) {
      const path = join(folder, `whole-${k}`);
      await writeFile(path, bytes);
      expect([k, await outcomeOf(path)]).toEqual([k, 'taken']);
      expect(await readdir(`${path}.pyramid`)).toContain('0.tiles');
      expect((await readFile(join(`${path}.pyramid`, '0.tiles'))).length).toBeGreaterThan(0);
    }
  });
});
