import { describe, expect, it } from 'vitest';
import type { Mend } from '../mend/mend.ts';
import type { BridgeMend } from '../mend/bridge/bridgeMend.ts';
import type { HealMend } from '../mend/heal/healMend.ts';
import type { RebuildMend } from '../mend/rebuild/rebuildMend.ts';
import type { Patch } from '../raster/patch.ts';
import type { RebuildTask } from '../mend/rebuild/rebuildTask.ts';
import { rebuildTask } from '../mend/rebuild/rebuildTask.ts';
import { mulberry } from '../random/mulberry.ts';
import { pixelsOf } from '../raster/pixels.ts';
import { cloneRaster } from '../raster/raster.ts';
import { pictureOf } from '../testing/pictures.ts';
import { createMendedPicture } from './mendedPicture.ts';
import type { PatchMemory, PatchWork } from './patchMemory.ts';
import { rebuildWork } from './patchMemory.ts';
import { emptyRecipe } from './recipe.ts';
import { renderRecipe } from './render.ts';

const [WIDTH, HEIGHT] = [320, 120];
const uniform = mulberry(5);
const picture = pictureOf(WIDTH, HEIGHT, () => 0.3 + 0.4 * uniform());
const whole = { left: 0, top: 0, width: WIDTH, height: HEIGHT };

const bridgeOver = (more: Partial<BridgeMend> = {}): BridgeMend => ({
  ...{ id: 'b', method: 'bridge', margin: 1, edge: 1, share: 1, on: true, seed: 1 },
  target: {
    shape: 'stroke',
    points: [
      [30, 40],
      [90, 80],
    ],
    width: 5,
  },
  ...more,
});
const healAt = (x: number, y: number): HealMend => ({
  ...{ id: 'h', method: 'heal', margin: 1, edge: 1, share: 1, on: true, source: { dx: 30, dy: 0 } },
  target: { shape: 'disc', x, y, r: 6 },
});

/** All that decides what a mend makes, as text. */
const inWords = ({ document, fences, windows }: PatchWork): string =>
  JSON.stringify([
    document,
    fences,
    windows.map(({ left, top, raster }) => [left, top, cloneRaster(raster).planes]),
  ]);

/** Keeps everything, and tells what was looked up. */
function memory(): PatchMemory & { readonly kept: Map<string, Patch>; readonly found: boolean[] } {
  const kept = new Map<string, Patch>();
  const found: boolean[] = [];
  return {
    kept,
    found,
    find: (work) => {
      const patch = kept.get(inWords(work)) ?? null;
      found.push(patch !== null);
      return Promise.resolve(patch);
    },
    keep: (work, patch) => void kept.set(inWords(work), patch),
  };
}

const ready = (): Promise<void> => Promise.resolve();

/** A picture that is opened with these mends on it. */
async function opened(mends: readonly Mend[], known: PatchMemory) {
  const mended = createMendedPicture(pixelsOf(picture));
  await mended.update({ mends }, ready, () => undefined, undefined, known);
  return mended.pixels.window(whole).raster.planes;
}

function rendered(mends: readonly Mend[]) {
  const raster = cloneRaster(picture);
  renderRecipe(raster, { ...emptyRecipe({ width: WIDTH, height: HEIGHT }), mends });
  return raster.planes;
}

describe('what mends made before', () => {
  it('is laid down as it was, and not worked out again', async () => {
    const known = memory();
    const first = await opened([bridgeOver()], known);
    const second = await opened([bridgeOver()], known);
    expect(known.found).toEqual([false, true]);
    expect(first).toEqual(rendered([bridgeOver()]));
    expect(second).toEqual(first);
  });

  it('is another for other settings, and where another mend lies under it', async () => {
    const known = memory();
    await opened([bridgeOver()], known);
    const soft = await opened([bridgeOver({ edge: 3 })], known);
    const over = await opened([healAt(40, 46), bridgeOver()], known);
    expect(known.found).toEqual([false, false, false]);
    expect(soft).toEqual(rendered([bridgeOver({ edge: 3 })]));
    expect(over).toEqual(rendered([healAt(40, 46), bridgeOver()]));
  });

  it('is the same where a mend lies out of its reach', async () => {
    const known = memory();
    await opened([bridgeOver()], known);
    const beside = await opened([healAt(260, 60), bridgeOver()], known);
    expect(known.found).toEqual([false, true]);
    expect(beside).toEqual(rendered([healAt(260, 60), bridgeOver()]));
  });

  it('stands for a rebuild too, which is not begun elsewhere then', async () => {
    const known = memory();
    const rebuild: RebuildMend = {
      ...{ id: 'r', method: 'rebuild', margin: 1, edge: 0, share: 1, on: true, seed: 1, guides: [] },
      target: { shape: 'disc', x: 100, y: 60, r: 10 },
    };
    const begun: RebuildTask[] = [];
    const elsewhere = (task: RebuildTask) => {
      begun.push(task);
      return () => undefined;
    };
    const mended = createMendedPicture(pixelsOf(picture));
    await mended.update({ mends: [rebuild] }, ready, () => undefined, elsewhere, known);
    expect(begun).toHaveLength(1);
    const [task] = begun;
    for (const { halvings, patch } of rebuildTask(task))
      if (halvings === 0) known.keep(rebuildWork(task), patch);

    // How it is laid down has no say in it.
    const half = { ...rebuild, share: 0.5 };
    const again = createMendedPicture(pixelsOf(picture));
    await again.update({ mends: [half] }, ready, () => undefined, elsewhere, known);
    expect(begun).toHaveLength(1);
    expect(again.pixels.window(whole).raster.planes).toEqual(rendered([half]));
  });

  it('is not kept of what is soon worked out', async () => {
    const known = memory();
    await opened([healAt(40, 46), bridgeOver({ target: { shape: 'disc', x: 80, y: 30, r: 3 } })], known);
    expect(known.found).toEqual([]);
    expect(known.kept.size).toBe(0);
  });
});
