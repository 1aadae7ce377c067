import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { mendFootprint } from '../mend/applyMend.ts';
import type { Mend } from '../mend/mend.ts';
import { pixelsOf } from '../raster/pixels.ts';
import type { Raster } from '../raster/raster.ts';
import { cloneRaster } from '../raster/raster.ts';
import type { Rect } from '../raster/rect.ts';
import { rectsMeet } from '../raster/rect.ts';
import { HEIGHT, PICTURE, WHOLE, WIDTH, differences, recipeOf } from '../testing/recipes.ts';
import type { MendedPicture } from './mendedPicture.ts';
import { createMendedPicture } from './mendedPicture.ts';
import { nextPart } from './nextPart.ts';
import { emptyRecipe } from './recipe.ts';
import { renderRecipe } from './render.ts';

const sightOf: fc.Arbitrary<Rect> = fc.record({
  left: fc.integer({ min: 0, max: WIDTH - 30 }),
  top: fc.integer({ min: 0, max: HEIGHT - 30 }),
  width: fc.constant(30),
  height: fc.constant(30),
});

describe('mends that are laid down part by part', () => {
  const shape = pixelsOf(PICTURE).shape;
  const atHand = (): Promise<void> => Promise.resolve();
  const tellNobody = (): void => undefined;

  it('come out as if they were laid at once, wherever is looked meanwhile', async () => {
    await fc.assert(
      fc.asyncProperty(recipeOf, fc.array(sightOf, { minLength: 1, maxLength: 4 }), async (sheet, sights) => {
        const whole = cloneRaster(PICTURE);
        renderRecipe(whole, { ...emptyRecipe(PICTURE), ...sheet });
        const mended = createMendedPicture(pixelsOf(PICTURE));
        const laid = new Set<string>();
        for (let turn = 0; laid.size < sheet.mends.length; turn++) {
          const mends = nextPart(sheet.mends, laid, sights[turn % sights.length], shape, 1);
          expect(mends).toHaveLength(laid.size + 1);
          for (const { id } of mends) laid.add(id);
          await mended.update({ ...sheet, mends }, atHand, tellNobody);
        }
        expect(differences(mended.pixels.window(WHOLE).raster, whole)).toBe(0);
      }),
      { numRuns: 30 },
    );
  });

  it('are those in sight first: what is seen is as it will be before the others are laid', async () => {
    await fc.assert(
      fc.asyncProperty(recipeOf, sightOf, async (sheet, sight) => {
        const all = createMendedPicture(pixelsOf(PICTURE));
        await all.update(sheet, atHand, tellNobody);
        const isSeen = (mend: Mend): boolean => rectsMeet(mendFootprint(mend, shape), sight);
        const some = createMendedPicture(pixelsOf(PICTURE));
        // As many as it takes until all that lie in sight are laid.
        let mends: readonly Mend[] = [];
        for (let most = 0; !sheet.mends.filter(isSeen).every((mend) => mends.includes(mend)); most++)
          mends = nextPart(sheet.mends, new Set(), sight, shape, most);
        await some.update({ ...sheet, mends }, atHand, tellNobody);
        const onSight = ({ pixels }: MendedPicture): Raster => cloneRaster(pixels.window(sight).raster);
        expect(differences(onSight(some), onSight(all))).toBe(0);
      }),
      { numRuns: 30 },
    );
  });
});
