import 'fake-indexeddb/auto';
import { IDBFactory } from 'fake-indexeddb';
import { beforeEach, describe, expect, it, vi } from 'vitest';
import type { Patch } from '@fennip/core/raster';
import type { PatchMemory, PatchWork } from '@fennip/core/recipe';
import { createRaster, wholeWindow } from '@fennip/core/raster';
import { createPatchMemory } from './patchMemory.ts';

const SIDE = 16;

/** Work on a picture of one tone. */
function work(document: string, tone: number, depth: 8 | 16 = 8): PatchWork {
  const raster = createRaster(SIDE, SIDE, 1, depth);
  raster.planes[0].fill(tone);
  return { document, fences: [], windows: [wholeWindow(raster)] };
}

const patchOf = (value: number): Patch => ({
  rect: { left: 2, top: 3, width: 4, height: 4 },
  values: [new Float32Array(16).fill(value)],
  coverage: new Float32Array(16).fill(1),
});
const BYTES = 2 * 16 * 4;

/** Keeps a patch and waits until it is there: nobody else would. */
async function keep(memory: PatchMemory, made: PatchWork, patch: Patch): Promise<void> {
  memory.keep(made, patch);
  await vi.waitFor(async () => expect(await memory.find(made)).not.toBeNull());
}

beforeEach(() => {
  vi.stubGlobal('indexedDB', new IDBFactory());
});

describe('patches that are kept', () => {
  it('are found again for the same work, in another session too', async () => {
    await keep(createPatchMemory('one'), work('a', 7), patchOf(5));
    expect(await createPatchMemory('one').find(work('a', 7))).toEqual(patchOf(5));
  });

  it('are not found for another mend, other pixels, another depth, or by another build', async () => {
    await keep(createPatchMemory('one'), work('a', 7), patchOf(5));
    const memory = createPatchMemory('one');
    expect(await memory.find(work('b', 7))).toBeNull();
    expect(await memory.find(work('a', 8))).toBeNull();
    expect(await memory.find(work('a', 7, 16))).toBeNull();
    expect(await createPatchMemory('two').find(work('a', 7))).toBeNull();
  });

  it('know a part of a larger picture from its own pixels alone', async () => {
    const memory = createPatchMemory('one');
    const large = createRaster(2 * SIDE, SIDE, 1, 8);
    large.planes[0].fill(7);
    const part = { ...large, width: SIDE, planes: [large.planes[0].subarray(0, SIDE * large.stride)] };
    await keep(memory, { ...work('a', 7), windows: [{ ...wholeWindow(part) }] }, patchOf(5));
    expect(await memory.find(work('a', 7))).toEqual(patchOf(5));
    large.planes[0][1] = 9;
    expect(await memory.find({ ...work('a', 7), windows: [{ ...wholeWindow(part) }] })).toBeNull();
  });

  it('go when there are too many, those that were not asked for the longest first', async () => {
    vi.useFakeTimers({ toFake: ['Date'] });
    try {
      const memory = createPatchMemory('one', { bytes: 3 * BYTES, lookAfter: 1 });
      for (let k = 0; k < 5; k++) {
        vi.setSystemTime(1000 * (k + 1));
        await keep(memory, work('a', k), patchOf(k));
      }
      await vi.waitFor(async () => expect(await memory.find(work('a', 1))).toBeNull());
      expect(await memory.find(work('a', 0))).toBeNull();
      for (const k of [2, 3, 4]) expect(await memory.find(work('a', k))).toEqual(patchOf(k));
    } finally {
      vi.useRealTimers();
    }
  });

  it('are none where the browser keeps nothing, and nobody is document', async () => {
    vi.stubGlobal('indexedDB', {
      open: () => {
        throw new Error('not allowed');
      },
    });
    const memory = createPatchMemory('one');
    memory.keep(work('a', 7), patchOf(5));
    expect(await memory.find(work('a', 7))).toBeNull();
  });
});
