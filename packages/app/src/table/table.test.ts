import type { NumberedFault } from '@fennip/core/fault';
import { emptyRecipe } from '@fennip/core/recipe';
import type { CropStep } from '@fennip/core/finish';
import { framingOf } from '@fennip/core/finish';
import fc from 'fast-check';
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import { effectScope, nextTick, ref, shallowRef } from 'vue';
import type { Sight } from '../canvas/viewport.ts';
import { toScreen } from '../canvas/viewport.ts';
import { useHand } from '../stores/hand.ts';
import { usePicture } from '../stores/picture.ts';
import { useView } from '../stores/view.ts';
import { openPage } from '../testing/openPage.ts';
import { pictureSheet } from '../testing/pictureSheet.ts';
import { useComparing } from './useComparing.ts';
import { useMarks } from './useMarks.ts';

const TABLE = { width: 800, height: 600 };
const faults = fc
  .uniqueArray(fc.tuple(fc.integer({ min: 2, max: 58 }), fc.integer({ min: 2, max: 48 })), {
    maxLength: 12,
    selector: ([x, y]) => 100 * x + y,
  })
  .map((places) =>
    places.map(([x, y], k): NumberedFault => ({
      ...{ id: `f${k}`, number: k + 1, kind: 'speck', polarity: 'dark' },
      ...{ x: 10 * x, y: 10 * y, r: 3, strength: 0.5, softness: 0.3, confidence: 0.9 },
    })),
  );

beforeEach(() => {
  vi.useFakeTimers();
  openPage();
});
afterEach(() => {
  vi.useRealTimers();
  vi.unstubAllGlobals();
});

/** The marks of a picture that is shown whole. */
function marksOf(list: readonly NumberedFault[], crop: CropStep | null = null) {
  usePicture().takeSheet({
    ...pictureSheet({ faults: list }),
    recipe: emptyRecipe({ width: 600, height: 500 }),
  });
  const framing = shallowRef(crop && framingOf({ width: 600, height: 500 }, [crop]));
  const sight = shallowRef<Sight>({ x: 300, y: 250, scale: 1, framing: null });
  const marks = effectScope().run(() => useMarks({ sight, table: ref(TABLE), framing }));
  if (!marks) throw new Error('the scope is active');
  return { marks, sight };
}

describe('the marks on the table', () => {
  it('are found under the pointer where they are drawn, each by itself', () => {
    fc.assert(
      fc.property(faults, (list) => {
        const { marks, sight } = marksOf(list);
        for (const { id, x, y } of list) {
          const [sx, sy] = toScreen(sight.value, TABLE, x, y);
          expect(marks.markAt(sx, sy)?.id).toBe(id);
        }
        expect(marks.markAt(-500, -500)).toBeNull();
      }),
      { numRuns: 25 },
    );
  });

  it('in a rectangle of the screen are those that lie there', () => {
    fc.assert(
      fc.property(
        faults,
        fc.integer({ min: 0, max: 400 }),
        fc.integer({ min: 0, max: 300 }),
        (list, left, top) => {
          const { marks, sight } = marksOf(list);
          const near = new Set(marks.marksNear(left, top, left + 200, top + 150).map(({ id }) => id));
          for (const { id, x, y } of list) {
            const [sx, sy] = toScreen(sight.value, TABLE, x, y);
            if (sx > left && sx < left + 200 && sy > top && sy < top + 150) expect(near.has(id)).toBe(true);
          }
        },
      ),
      { numRuns: 25 },
    );
  });

  it('are none while the original is held or a fence is drawn, and only the open ones where that is chosen', () => {
    const [list] = fc.sample(
      faults.filter(({ length }) => length > 3),
      { numRuns: 1, seed: 3 },
    );
    const { marks } = marksOf(list);
    const view = useView();
    view.marks = 'all';
    expect(marks.shown.value).toHaveLength(list.length);
    view.isOriginalHeld = true;
    expect(marks.shown.value).toEqual([]);
    view.isOriginalHeld = false;
    useHand().tool = 'zone';
    expect(marks.shown.value).toEqual([]);
    useHand().tool = null;
    usePicture().perform({ words: '', steps: [{ op: 'judge', fault: list[0].id, as: 'dismissed' }] });
    view.marks = 'open';
    expect(marks.shown.value.map(({ id }) => id)).toEqual(list.slice(1).map(({ id }) => id));
    view.marks = 'none';
    expect(marks.shown.value).toEqual([]);
    // What is not shown can still be framed and chosen.
    expect(marks.entriesWithin({ left: 0, top: 0, width: 600, height: 500 })).toHaveLength(list.length);
  });

  it('are none of what a crop cuts away', () => {
    const crop: CropStep = {
      ...{ id: 'c', method: 'crop', on: true, share: 1 },
      ...{ left: 0, top: 0, width: 300, height: 500 },
    };
    const [list] = fc.sample(
      faults.filter(({ length }) => length > 5),
      { numRuns: 1, seed: 5 },
    );
    const { marks } = marksOf(list, crop);
    useView().marks = 'all';
    expect(marks.shown.value.map(({ id }) => id)).toEqual(
      list.filter(({ x }) => x < 300).map(({ id }) => id),
    );
  });
});

describe('what is compared', () => {
  const comparing = () => {
    const onChange = vi.fn();
    const compared = effectScope().run(() => useComparing(ref(TABLE), onChange));
    if (!compared) throw new Error('the scope is active');
    return compared;
  };

  it('side by side lies a quarter of the table from its middle, on either side', () => {
    const { foldAt } = comparing();
    expect([foldAt(10), foldAt(790)]).toEqual([0, 0]);
    useView().comparison = 'side by side';
    expect([foldAt(10), foldAt(790)]).toEqual([-200, 200]);
  });

  it('blinks between before and after while it is asked to, and shows after when it ends', async () => {
    const { isBlinkedBefore } = comparing();
    const view = useView();
    view.comparison = 'blinking';
    await nextTick();
    const seen = new Set<boolean>();
    for (let k = 0; k < 6; k++) {
      await vi.advanceTimersByTimeAsync(view.blinkMs);
      seen.add(isBlinkedBefore.value);
    }
    expect([...seen].sort()).toEqual([false, true]);
    view.comparison = 'none';
    await nextTick();
    await vi.advanceTimersByTimeAsync(5000);
    expect(isBlinkedBefore.value).toBe(false);
  });

  it('is named by what is left out', () => {
    const { sideNames } = comparing();
    expect(sideNames.value.before).not.toBe(sideNames.value.after);
  });
});
