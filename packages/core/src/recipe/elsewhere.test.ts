import { describe, expect, it } from 'vitest';
import { pictureOf } from '../testing/pictures.ts';
import { mulberry } from '../random/mulberry.ts';
import { pixelsOf } from '../raster/pixels.ts';
import { cloneRaster } from '../raster/raster.ts';
import { wholeWindow } from '../raster/window.ts';
import type { Mend } from '../mend/mend.ts';
import type { HealMend } from '../mend/heal/healMend.ts';
import type { RebuildMend } from '../mend/rebuild/rebuildMend.ts';
import type { RebuildAnswer } from '../mend/rebuild/rebuild.ts';
import type { RebuildTask } from '../mend/rebuild/rebuildTask.ts';
import { rebuildTask } from '../mend/rebuild/rebuildTask.ts';
import { createMendedPicture } from './mendedPicture.ts';
import { emptyRecipe } from './recipe.ts';
import { renderRecipe } from './render.ts';

const SIDE = 120;
const uniform = mulberry(3);
const noise = Array.from({ length: SIDE * SIDE }, uniform);
const picture = pictureOf(SIDE, SIDE, (x, y) => 0.2 + 0.6 * noise[(y >> 1) * SIDE + (x >> 1)]);

const rebuildAt = (x: number, y: number, more: Partial<RebuildMend> = {}): RebuildMend => ({
  ...{ id: 'r', method: 'rebuild', margin: 1, edge: 0, share: 1, on: true, seed: 1, guides: [] },
  target: { shape: 'disc', x, y, r: 12 },
  ...more,
});
const healAt = (x: number, y: number): HealMend => ({
  ...{ id: 'h', method: 'heal', margin: 1, edge: 1, share: 1, on: true, source: { dx: 30, dy: 0 } },
  target: { shape: 'disc', x, y, r: 6 },
});

/** Works rebuilds out when it is told to. */
function bench() {
  const jobs: { task: RebuildTask; bring: (answer: RebuildAnswer) => void; isEnded: boolean }[] = [];
  return {
    jobs,
    elsewhere: (task: RebuildTask, bring: (answer: RebuildAnswer) => void) => {
      const job = { task, bring, isEnded: false };
      jobs.push(job);
      return () => {
        job.isEnded = true;
      };
    },
  };
}

const ready = (): Promise<void> => Promise.resolve();
const nothing = (): void => undefined;
const rendered = (mends: readonly Mend[]) => {
  const raster = cloneRaster(picture);
  renderRecipe(raster, { ...emptyRecipe({ width: SIDE, height: SIDE }), mends });
  return raster.planes;
};

describe('a rebuild that is worked out elsewhere', () => {
  const base = pixelsOf(picture);
  const whole = { left: 0, top: 0, width: SIDE, height: SIDE };

  it('changes nothing before its first answer, and is the same as one worked out here after its last', async () => {
    const mended = createMendedPicture(base);
    const { jobs, elsewhere } = bench();
    const mends = [rebuildAt(60, 60), healAt(60, 60)];
    const update = () => mended.update({ mends }, ready, nothing, elsewhere);
    await update();
    expect(mended.pixels.window(whole).raster.planes).toEqual(rendered([healAt(60, 60)]));
    for (const answer of rebuildTask(jobs[0].task)) {
      jobs[0].bring(answer);
      await update();
      // The heal over it sees each answer.
      const under = mended.laidOn(whole).find(({ mend }) => mend.id === 'h');
      expect(under).toBeDefined();
    }
    expect(jobs).toHaveLength(1);
    expect(mended.pixels.window(whole).raster.planes).toEqual(rendered(mends));
  });

  it('is not begun again for what only says how it is laid down', async () => {
    const mended = createMendedPicture(base);
    const { jobs, elsewhere } = bench();
    await mended.update({ mends: [rebuildAt(60, 60)] }, ready, nothing, elsewhere);
    for (const answer of rebuildTask(jobs[0].task)) jobs[0].bring(answer);
    const half = [rebuildAt(60, 60, { share: 0.5 })];
    await mended.update({ mends: half }, ready, nothing, elsewhere);
    expect(jobs).toHaveLength(1);
    expect(mended.pixels.window(whole).raster.planes).toEqual(rendered(half));
  });

  it('ends when it is changed, when what it looks at changes, and when it is taken away', async () => {
    const mended = createMendedPicture(base);
    const { jobs, elsewhere } = bench();
    const update = (mends: readonly Mend[]) => mended.update({ mends }, ready, nothing, elsewhere);
    await update([rebuildAt(60, 60)]);
    await update([rebuildAt(60, 60, { seed: 2 })]);
    await update([healAt(40, 40), rebuildAt(60, 60, { seed: 2 })]);
    await update([]);
    expect(jobs.map(({ isEnded }) => isEnded)).toEqual([true, true, true]);
    // What comes too late is not laid down.
    for (const answer of rebuildTask(jobs[2].task)) jobs[2].bring(answer);
    await update([]);
    expect(mended.pixels.window(whole).raster.planes).toEqual(wholeWindow(picture).raster.planes);
  });
});
