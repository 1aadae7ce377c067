import { describe, expect, it } from 'vitest';
import type { HealMend } from '../../mend/mend.ts';
import { emptyRecipe } from '../../recipe/recipe.ts';
import { renderRecipe } from '../../recipe/render.ts';
import { pixelsOf } from '../../raster/pixels.ts';
import { cloneRaster } from '../../raster/raster.ts';
import { pictureOf } from '../../testing/pictures.ts';
import { findWear } from './findWear.ts';

const PICTURE = pictureOf(200, 160, () => 0.5, { grain: 0.08, seed: 5 });
const heal = (id: string, x: number, y: number, dx: number, dy: number): HealMend => ({
  ...{ id, method: 'heal', margin: 1, edge: 1, share: 1, on: true },
  target: { shape: 'disc', x, y, r: 7 },
  source: { dx, dy },
});
/** Three places healed from one source at (100, 120), one from elsewhere. */
const MENDS = [
  heal('a', 40, 40, 60, 80),
  heal('b', 150, 50, -50, 70),
  heal('c', 100, 30, 1, 91),
  heal('d', 60, 100, -30, -20),
];

describe('wear', () => {
  it('is found where mends show the same texture, and counted', () => {
    const mended = cloneRaster(PICTURE);
    renderRecipe(mended, { ...emptyRecipe(PICTURE), mends: MENDS });
    const worn = findWear(MENDS, pixelsOf(mended));
    expect(worn.map(({ id }) => id).sort()).toEqual(['a', 'b', 'c']);
    expect(worn.every(({ repeats }) => repeats === 2)).toBe(true);
  });

  it('is judged by what is seen: what a later mend covered shows no more', () => {
    const mended = cloneRaster(PICTURE);
    const covered = [...MENDS, heal('e', 150, 50, -120, -20)];
    renderRecipe(mended, { ...emptyRecipe(PICTURE), mends: covered });
    const worn = findWear(covered, pixelsOf(mended));
    expect(worn.map(({ id }) => id).sort()).toEqual(['a', 'c']);
    expect(findWear([MENDS[0], { ...MENDS[1], on: false }], pixelsOf(mended))).toEqual([]);
  });
});
