import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import type { FinishStep } from '../finish/finishStep.ts';
import { frameWhole } from '../finish/framing/frameWhole.ts';
import { mendFootprint, mendReads } from '../mend/applyMend.ts';
import { isSpotMend } from '../mend/mend.ts';
import { cloneRaster, copyRaster, createSharedRaster } from '../raster/raster.ts';
import { rectsMeet } from '../raster/rect.ts';
import { wholeWindow } from '../raster/window.ts';
import { HEIGHT, PICTURE, WIDTH, differences, recipeOf } from '../testing/recipes.ts';
import { independentMends } from './independentMends.ts';
import { emptyRecipe } from './recipe.ts';
import { frameInParts, renderInParts, renderRecipe } from './render.ts';
import type { RenderGround, RenderPart } from './renderPart.ts';
import { renderPart } from './renderPart.ts';

const BASE = { on: true, share: 1 } as const;
const STEPS: readonly FinishStep[] = [
  { ...BASE, id: 'l', method: 'levels', tones: [{ black: 0.1, white: 0.8, gamma: 1.4 }] },
  { ...BASE, id: 's', method: 'sharpen', way: 'unsharp', radius: 1.2, amount: 1, threshold: 0 },
  { ...BASE, id: 'b', method: 'soften', radius: 2, zone: 'sky' },
  { ...BASE, id: 't', method: 'straighten', angle: 0.05 },
  { ...BASE, id: 'c', method: 'crop', left: 10, top: 8, width: 61, height: 50 },
];
const finishOf = fc.subarray([...STEPS]);

/** Carries out the parts that come together in another order than they come in. */
function shuffling(seed: number): (ground: RenderGround, part: RenderPart) => Promise<void> {
  let count = seed;
  return async (ground, part) => {
    await new Promise((resolve) => setTimeout(resolve, (count++ * 7) % 3));
    renderPart(ground, part);
  };
}

describe('a recipe carried out in parts', () => {
  it('makes the picture that it makes in one go, value for value, in whatever order parts end', async () => {
    await fc.assert(
      fc.asyncProperty(
        recipeOf,
        finishOf,
        fc.nat(9),
        fc.integer({ min: 1, max: 3 }),
        async (sheet, finish, seed, parts) => {
          const recipe = { ...emptyRecipe(PICTURE), ...sheet, finish };
          const whole = cloneRaster(PICTURE);
          renderRecipe(whole, recipe);
          const shared = createSharedRaster(WIDTH, HEIGHT, PICTURE.planes.length, PICTURE.depth);
          copyRaster(PICTURE, shared, 0, 0);
          const reported: number[] = [];
          const renderers = { count: parts, render: shuffling(seed) };
          await renderInParts(shared, recipe, renderers, { done: (count) => reported.push(count) });
          const made = await frameInParts(shared, finish, renderers);
          const framed = frameWhole(whole, finish);
          expect([made.width, made.height]).toEqual([framed.width, framed.height]);
          expect(differences(made, framed)).toBe(0);
          expect(reported.at(-1) ?? 0).toBe(recipe.mends.filter(({ on }) => on).length);
        },
      ),
      { numRuns: 40 },
    );
  });

  it('shares mends out so that none changes what another share looks at', () => {
    const { picture } = wholeWindow(PICTURE);
    fc.assert(
      fc.property(recipeOf, fc.integer({ min: 1, max: 8 }), ({ mends }, most) => {
        const own = mends.filter(isSpotMend);
        const shares = independentMends(own, picture, most);
        expect(new Set(shares.flat())).toEqual(new Set(own));
        expect(shares.length).toBeLessThanOrEqual(most);
        shares.forEach((share, k) =>
          shares.forEach((other, l) => {
            if (k === l) return;
            for (const one of share)
              for (const two of other)
                for (const reads of [...mendReads(two, picture), mendFootprint(two, picture)])
                  expect(rectsMeet(mendFootprint(one, picture), reads)).toBe(false);
          }),
        );
      }),
    );
  });
});
