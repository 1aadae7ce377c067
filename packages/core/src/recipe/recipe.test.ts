import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { RecipeError } from '../errors.ts';
import { mendFootprint, mendReads } from '../mend/applyMend.ts';
import type { Mend } from '../mend/mend.ts';
import type { HealMend } from '../mend/heal/healMend.ts';
import type { Rect } from '../raster/rect.ts';
import { rectsMeet } from '../raster/rect.ts';
import { wholeWindow } from '../raster/window.ts';
import { pixelsOf } from '../raster/pixels.ts';
import { halveRaster, pyramidLevels } from '../raster/pyramid.ts';
import type { Raster } from '../raster/raster.ts';
import { cloneRaster } from '../raster/raster.ts';
import type { Sheet } from '../testing/recipes.ts';
import {
  HEIGHT,
  IDS,
  PICTURE,
  WHOLE,
  WIDTH,
  differences,
  fencesOf,
  mendOf,
  recipeOf,
} from '../testing/recipes.ts';
import type { Step, Worksheet } from './edit.ts';
import { applySteps, emptyWorksheet } from './edit.ts';
import { changeOnLevels } from './laidPatch.ts';
import { isLaidTreatment } from './laid.ts';
import { createMendedPicture } from './mendedPicture.ts';
import { emptyRecipe } from './recipe.ts';
import { renderRecipe } from './render.ts';

function rendered(sheet: Sheet): Raster {
  const copy = cloneRaster(PICTURE);
  renderRecipe(copy, { ...emptyRecipe(PICTURE), ...sheet });
  return copy;
}

describe('a mended picture', () => {
  it('after any change is what a full rendering gives, value for value', async () => {
    await fc.assert(
      fc.asyncProperty(fc.array(recipeOf, { minLength: 1, maxLength: 4 }), async (recipes) => {
        const mended = createMendedPicture(pixelsOf(PICTURE));
        for (const sheet of recipes) {
          await mended.update(
            sheet,
            () => Promise.resolve(),
            () => undefined,
          );
          expect(differences(mended.pixels.window(WHOLE).raster, rendered(sheet))).toBe(0);
        }
      }),
      { numRuns: 30 },
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
        const reported = new Uint8Array(WIDTH * HEIGHT);
        await mended.update(
          second,
          () => Promise.resolve(),
          (rect) => {
            for (let y = rect.top; y < rect.top + rect.height; y++)
              reported.fill(1, y * WIDTH + rect.left, y * WIDTH + rect.left + rect.width);
          },
        );
        let unreported = 0;
        rendered(second).planes.forEach((plane, c) => {
          for (let i = 0; i < plane.length; i++)
            if (plane[i] !== before.planes[c][i] && reported[i] === 0) unreported++;
        });
        expect(unreported).toBe(0);
        let redone = 0;
        await mended.update(
          second,
          () => Promise.resolve(void redone++),
          () => undefined,
        );
        expect(redone).toBe(0);
      }),
      { numRuns: 30 },
    );
  });

  it('tells where a mend lay that now lies off the picture', async () => {
    const on: HealMend = {
      ...{ id: 'a', method: 'heal', margin: 0, edge: 0, share: 1, on: true },
      target: { shape: 'disc', x: 40, y: 40, r: 5 },
      source: { dx: 20, dy: 0 },
    };
    const off: HealMend = { ...on, target: { shape: 'disc', x: -40, y: 40, r: 5 } };
    const mended = createMendedPicture(pixelsOf(PICTURE));
    const reported: Rect[] = [];
    for (const mend of [on, off]) {
      reported.length = 0;
      await mended.update(
        { mends: [mend], fences: [] },
        () => Promise.resolve(),
        (rect) => void reported.push(rect),
      );
    }
    const laid = mendFootprint(on, wholeWindow(PICTURE).picture);
    expect(reported.some((rect) => rectsMeet(rect, laid))).toBe(true);
    expect(differences(mended.pixels.window(WHOLE).raster, PICTURE)).toBe(0);
  });

  it('is the same on every run, value for value', () => {
    fc.assert(
      fc.property(recipeOf, (sheet) => {
        expect(differences(rendered(sheet), rendered(sheet))).toBe(0);
      }),
      { numRuns: 20 },
    );
  });

  it('depends on the order of two mends only where one looks at what the other changes', () => {
    const shape = wholeWindow(PICTURE).picture;
    fc.assert(
      fc.property(mendOf('a'), mendOf('b'), fencesOf, (a, b, fences) => {
        const meet = (one: Mend, other: Mend): boolean =>
          mendReads(one, shape).some((rect) => rectsMeet(rect, mendFootprint(other, shape)));
        fc.pre(!meet(a, b) && !meet(b, a));
        expect(differences(rendered({ mends: [a, b], fences }), rendered({ mends: [b, a], fences }))).toBe(0);
      }),
      { numRuns: 40 },
    );
  });

  it('without its mends is the picture that came in', async () => {
    await fc.assert(
      fc.asyncProperty(recipeOf, async (sheet) => {
        const mended = createMendedPicture(pixelsOf(PICTURE));
        for (const next of [sheet, { mends: [] }])
          await mended.update(
            next,
            () => Promise.resolve(),
            () => undefined,
          );
        expect(differences(mended.pixels.window(WHOLE).raster, PICTURE)).toBe(0);
      }),
      { numRuns: 15 },
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
      { mends: [mend] },
      () => Promise.resolve(),
      () => undefined,
    );
    const [laid] = mended.laidOn(WHOLE);
    if (isLaidTreatment(laid)) throw new Error('a heal is no treatment');
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
  const sheet: Worksheet = emptyWorksheet(PICTURE);
  const step: fc.Arbitrary<Step> = fc.oneof(
    fc.constantFrom(...IDS).chain((id) => mendOf(id).map((mend): Step => ({ op: 'put', mend, at: 0 }))),
    // Beyond the end is the end.
    fc.constantFrom(...IDS).chain((id) => mendOf(id).map((mend): Step => ({ op: 'put', mend, at: 50 }))),
    fc.constantFrom(...IDS).map((id): Step => ({ op: 'drop', id })),
    fc.record({
      op: fc.constant('judge' as const),
      fault: fc.constantFrom('f1', 'f2'),
      as: fc.constantFrom('open' as const, 'dismissed' as const, 'set aside' as const),
    }),
    fc.record({
      op: fc.constant('name' as const),
      fault: fc.constantFrom('f1', 'f2'),
      as: fc.constantFrom('intruder' as const, 'stain' as const, null),
    }),
    fc.record({
      op: fc.constant('mark' as const),
      fault: fc.constantFrom(3, 4, 5).chain((number) =>
        fc.record({
          ...{
            id: fc.constant(`h${number}`),
            number: fc.constant(number),
            kind: fc.constant('speck' as const),
          },
          ...{ polarity: fc.constant('dark' as const), x: fc.nat(90), y: fc.nat(70), r: fc.constant(3) },
          ...{ strength: fc.constant(0.2), softness: fc.constant(0.5), confidence: fc.constant(1) },
        }),
      ),
    }),
    fc.record({ op: fc.constant('unmark' as const), id: fc.constantFrom('h3', 'h4', 'h5') }),
    fencesOf.chain((fences) =>
      fc.constantFrom(...fences).map((fence): Step => ({ op: 'fence', fence, at: 0 })),
    ),
    fc.constantFrom('roof', 'sky').map((id): Step => ({ op: 'unfence', id })),
    fc
      .record({ id: fc.constantFrom('a', 'b'), share: fc.constantFrom(0.5, 1), at: fc.nat(3) })
      .map(({ id, share, at }): Step => {
        const tones = [{ black: 0.1, white: 0.9, gamma: 1 }];
        return { op: 'finish', step: { id, on: true, share, method: 'levels', tones }, at };
      }),
    fc.constantFrom('a', 'b').map((id): Step => ({ op: 'unfinish', id })),
  );
  /** Whether a step takes away what is not there, or a zone that a mend needs. */
  const isRefused = (
    one: Step,
    { recipe: { mends, fences = [], finish = [] }, marked }: Worksheet,
  ): boolean => {
    const isZoneThere = fences.some(({ id }) => id === 'sky');
    switch (one.op) {
      case 'put':
        return one.mend.zone !== undefined && !isZoneThere;
      case 'drop':
        return !mends.some(({ id }) => id === one.id);
      case 'unmark':
        return !marked.some(({ id }) => id === one.id);
      case 'unfence':
        return !fences.some(({ id }) => id === one.id) || mends.some(({ zone }) => zone === one.id);
      case 'unfinish':
        return !finish.some(({ id }) => id === one.id);
      default:
        return false;
    }
  };

  it('are taken back exactly, in whatever order they came', () => {
    fc.assert(
      fc.property(fc.array(step, { maxLength: 30 }), (steps) => {
        const trail: { before: Worksheet; inverse: readonly Step[] }[] = [];
        let now = sheet;
        for (const one of steps) {
          if (isRefused(one, now)) {
            expect(() => applySteps(now, [one])).toThrow(RecipeError);
            continue;
          }
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
    expect(() => applySteps(sheet, [{ op: 'unmark', id: 'nobody' }])).toThrow('steps/0/id');
  });
});
