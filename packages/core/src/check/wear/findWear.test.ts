import { describe, expect, it } from 'vitest';
import type { Mend } from '../../mend/mend.ts';
import type { HealMend } from '../../mend/heal/healMend.ts';
import type { DiscTarget } from '../../target/target.ts';
import { emptyRecipe } from '../../recipe/recipe.ts';
import { renderRecipe } from '../../recipe/render.ts';
import { pixelsOf } from '../../raster/pixels.ts';
import { cloneRaster } from '../../raster/raster.ts';
import { pictureOf } from '../../testing/pictures.ts';
import { applyLamp } from '../../lamp/applyLamp.ts';
import { findWear } from './findWear.ts';
import { wornAreas } from './wornAreas.ts';

const PICTURE = pictureOf(200, 160, () => 0.5, { grain: 0.08, seed: 5 });
const SHAPE = pixelsOf(PICTURE).shape;
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

  it('is lit where it shows, the lighter the more often, at every size', () => {
    const mended = cloneRaster(PICTURE);
    renderRecipe(mended, { ...emptyRecipe(PICTURE), mends: MENDS });
    const worn = wornAreas(findWear(MENDS, pixelsOf(mended)), MENDS, SHAPE);
    const lit = (level: number): ((x: number, y: number) => number) => {
      const { planes, stride } = applyLamp(mended, { kind: 'wear', worn }, { level, left: 0, top: 0 });
      return (x, y) => planes[0][(y >> level) * stride + (x >> level)];
    };
    const faint = lit(0)(170, 140);
    for (const { x, y } of MENDS.slice(0, 3).map(({ target }) => target as DiscTarget)) {
      // Alike in two other places: half of half the light is left out.
      expect(lit(0)(x, y)).toBeGreaterThan(180);
      // The whole raster stands for a smaller level as well: only where it lies is told by the level.
      expect(lit(1)(x, y)).toBeGreaterThan(180);
      // The corner of its rectangle is no part of a disc.
      expect(Math.abs(lit(0)(x + 8, y + 8) - faint)).toBeLessThan(60);
    }
    const { x, y } = MENDS[3].target as DiscTarget;
    expect(lit(0)(x, y)).toBeLessThan(140);
    // Once only is lit less than twice.
    const pair = wornAreas(findWear(MENDS.slice(0, 2), pixelsOf(mended)), MENDS, SHAPE);
    expect(Math.max(...worn.map(({ times }) => times))).toBe(2);
    expect(Math.max(...pair.map(({ times }) => times))).toBe(1);
  });

  it('is seen whatever stands out around the mends, in the corners that they do not cover', () => {
    const bold = pictureOf(200, 160, (x, y) => (Math.floor(x / 3) % 2 === 0 && y < 70 ? 0.9 : 0.4), {
      ...{ grain: 0.03, seed: 5 },
    });
    const mended = cloneRaster(bold);
    const clones = MENDS.slice(0, 2).map(({ source, ...mend }): Mend => ({
      source: source ?? { dx: 0, dy: 0 },
      ...{ ...mend, method: 'clone' },
      ...{ reads: 'original', laying: 'along', buildUp: false },
    }));
    renderRecipe(mended, { ...emptyRecipe(bold), mends: clones });
    expect(findWear(clones, pixelsOf(mended)).map(({ id }) => id)).toEqual(['a', 'b']);
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
