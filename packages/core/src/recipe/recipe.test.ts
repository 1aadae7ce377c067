import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { RecipeError } from '../errors.ts';
import type { HealMend } from '../mend/mend.ts';
import { pixelsOf } from '../raster/pixels.ts';
import { halveRaster, pyramidLevels } from '../raster/pyramid.ts';
import { cloneRaster } from '../raster/raster.ts';
import { pictureOf } from '../testing/pictures.ts';
import type { Step, Worksheet } from './edit.ts';
import { applySteps } from './edit.ts';
import { changeOnLevels } from './laidPatch.ts';
import { createMendedPicture } from './mendedPicture.ts';
import { emptyRecipe } from './recipe.ts';
import { renderRecipe } from './render.ts';

const [WIDTH, HEIGHT] = [101, 77];
const PICTURE = pictureOf(WIDTH, HEIGHT, (x, y) => 0.5 + 0.3 * Math.sin(x / 7) * Math.cos(y / 9), {
  grain: 0.05,
});
const WHOLE = { left: 0, top: 0, width: WIDTH, height: HEIGHT };

const mendOf = (id: string): fc.Arbitrary<HealMend> =>
  fc.record({
    id: fc.constant(id),
    method: fc.constant('heal' as const),
    target: fc.record({
      shape: fc.constant('disc' as const),
      x: fc.integer({ min: 0, max: WIDTH }),
      y: fc.integer({ min: 0, max: HEIGHT }),
      r: fc.integer({ min: 1, max: 9 }),
    }),
    margin: fc.integer({ min: 0, max: 3 }),
    edge: fc.integer({ min: 0, max: 3 }),
    share: fc.constantFrom(1, 0.5),
    on: fc.boolean(),
    source: fc.record({ dx: fc.integer({ min: -30, max: 30 }), dy: fc.integer({ min: -30, max: 30 }) }),
  });
const IDS = ['a', 'b', 'c', 'd', 'e', 'f'];
const recipeOf = fc
  .shuffledSubarray(IDS, { minLength: 0 })
  .chain((ids) => fc.tuple(...ids.map(mendOf)) as fc.Arbitrary<HealMend[]>);

function rendered(mends: readonly HealMend[]): number[][] {
  const copy = cloneRaster(PICTURE);
  renderRecipe(copy, { ...emptyRecipe(PICTURE), mends });
  return copy.planes.map((plane) => [...plane]);
}

describe('a mended picture', () => {
  it('after any change is what a full rendering gives, value for value', async () => {
    await fc.assert(
      fc.asyncProperty(fc.array(recipeOf, { minLength: 1, maxLength: 4 }), async (recipes) => {
        const mended = createMendedPicture(pixelsOf(PICTURE));
        for (const mends of recipes) {
          await mended.update(
            mends,
            () => Promise.resolve(),
            () => undefined,
          );
          expect(mended.pixels.window(WHOLE).raster.planes.map((plane) => [...plane])).toEqual(
            rendered(mends),
          );
        }
      }),
      { numRuns: 60 },
    );
  });

  it('tells every place that changed, and works out only what a change touches', async () => {
    await fc.assert(
      fc.asyncProperty(recipeOf, recipeOf, async (first, second) => {
        const mended = createMendedPicture(pixelsOf(PICTURE));
        await mended.update(
          first,
          () => Promise.resolve(),
          () => undefined,
        );
        const before = rendered(first);
        const told = new Uint8Array(WIDTH * HEIGHT);
        await mended.update(
          second,
          () => Promise.resolve(),
          (rect) => {
            for (let y = rect.top; y < rect.top + rect.height; y++)
              told.fill(1, y * WIDTH + rect.left, y * WIDTH + rect.left + rect.width);
          },
        );
        rendered(second).forEach((plane, c) =>
          plane.forEach((value, i) => {
            if (value !== before[c][i]) expect(told[i]).toBe(1);
          }),
        );
        let redone = 0;
        await mended.update(
          second,
          () => Promise.resolve(void redone++),
          () => undefined,
        );
        expect(redone).toBe(0);
      }),
      { numRuns: 60 },
    );
  });

  it('shows on smaller levels what halving the mended picture would show, to one code value', async () => {
    const mend: HealMend = {
      id: 'a',
      method: 'heal',
      target: { shape: 'disc', x: 97, y: 73, r: 8 },
      margin: 2,
      edge: 2,
      share: 1,
      on: true,
      source: { dx: -40, dy: -20 },
    };
    const mended = createMendedPicture(pixelsOf(PICTURE));
    await mended.update(
      [mend],
      () => Promise.resolve(),
      () => undefined,
    );
    const [laid] = mended.patchesOn(WHOLE);
    const [, change] = changeOnLevels(
      laid,
      mended.pixels.shape,
      Math.max(2, pyramidLevels(WIDTH, HEIGHT).length),
    );
    const half = halveRaster(PICTURE);
    const wanted = halveRaster(mended.pixels.window(WHOLE).raster);
    for (let y = 0; y < half.height; y++)
      for (let x = 0; x < half.width; x++) {
        const { rect, difference } = change;
        const [cx, cy] = [x - rect.left, y - rect.top];
        const isIn = cx >= 0 && cy >= 0 && cx < rect.width && cy < rect.height;
        const shown = half.planes[0][y * half.width + x] + (isIn ? difference[0][cy * rect.width + cx] : 0);
        expect(Math.abs(shown - wanted.planes[0][y * half.width + x])).toBeLessThanOrEqual(1);
      }
  });

  it('refuses a recipe that is for a picture of other sides', () => {
    const recipe = emptyRecipe({ width: 10, height: 10 });
    expect(() => renderRecipe(cloneRaster(PICTURE), recipe)).toThrow(RecipeError);
  });
});

describe('edits', () => {
  const sheet: Worksheet = { recipe: emptyRecipe(PICTURE), judgements: {} };
  const step: fc.Arbitrary<Step> = fc.oneof(
    fc.constantFrom(...IDS).chain((id) => mendOf(id).map((mend): Step => ({ op: 'put', mend, at: 0 }))),
    fc.constantFrom(...IDS).map((id): Step => ({ op: 'drop', id })),
    fc.record({
      op: fc.constant('judge' as const),
      fault: fc.constantFrom('f1', 'f2'),
      as: fc.constantFrom('open' as const, 'dismissed' as const, 'set aside' as const),
    }),
  );

  it('are taken back exactly, in whatever order they came', () => {
    fc.assert(
      fc.property(fc.array(step, { maxLength: 30 }), (steps) => {
        const trail: { before: Worksheet; inverse: readonly Step[] }[] = [];
        let now = sheet;
        for (const one of steps) {
          if (one.op === 'drop' && !now.recipe.mends.some(({ id }) => id === one.id)) continue;
          const { worksheet, inverse } = applySteps(now, [one]);
          trail.push({ before: now, inverse });
          now = worksheet;
        }
        for (const { before, inverse } of trail.reverse()) {
          now = applySteps(now, inverse).worksheet;
          expect(now).toEqual(before);
        }
      }),
    );
  });

  it('name the step that cannot be done', () => {
    expect(() => applySteps(sheet, [{ op: 'drop', id: 'nobody' }])).toThrow('steps/0/id');
  });
});
