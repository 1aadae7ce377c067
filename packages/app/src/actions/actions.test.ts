import type { Fence } from '@fennip/core/fence';
import type { HealMend } from '@fennip/core/mend';
import type { Recipe, Step } from '@fennip/core/recipe';
import { emptyRecipe } from '@fennip/core/recipe';
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import { useFences } from '../stores/fences.ts';
import { usePicture } from '../stores/picture.ts';
import { openPage } from '../testing/openPage.ts';
import { pictureSheet, speckOf } from '../testing/pictureSheet.ts';
import { doneVerb } from './doneVerb.ts';
import { openPlacesNow, surroundingsNow } from './mendingFaults.ts';
import { useFencing } from './useFencing.ts';
import { useLedgerWork } from './useLedgerWork.ts';
import { useMendChanges } from './useMendChanges.ts';

const healOf = (n: number, more: Partial<HealMend> = {}): HealMend => ({
  ...{ id: `h${n}`, method: 'heal', target: { shape: 'disc', x: 60 * n, y: 60, r: 4 } },
  ...{ margin: 2, edge: 2, share: 1, on: true, source: { dx: 20, dy: 0 } },
  ...more,
});
const zone: Fence = {
  ...{ id: 'z', kind: 'zone', name: 'Sky', edge: 0, on: true },
  area: { shape: 'disc', x: 100, y: 100, r: 80 },
};

/** The steps that an edit sent, as they wait for the server. */
function sent(): readonly Step[] {
  const task = usePicture().unsent.at(-1);
  return task?.kind === 'edit' ? task.edit.steps : [];
}

function opened(recipe: Partial<Recipe>, faults = [1, 2, 3]): ReturnType<typeof usePicture> {
  const picture = usePicture();
  const sheet = pictureSheet({ faults: faults.map(speckOf) });
  picture.takeSheet({ ...sheet, recipe: { ...emptyRecipe({ width: 600, height: 500 }), ...recipe } });
  return picture;
}

beforeEach(() => {
  vi.useFakeTimers();
  openPage();
});
afterEach(() => {
  vi.useRealTimers();
  vi.unstubAllGlobals();
});

describe('what is decided in the ledger', () => {
  it('is one step of history for all that is chosen, and leaves what is settled alone', () => {
    const picture = opened({ mends: [healOf(1, { fault: 'f1' })] });
    const { dismiss } = useLedgerWork();
    dismiss(picture.entries);
    expect(sent()).toEqual([
      { op: 'judge', fault: 'f2', as: 'dismissed' },
      { op: 'judge', fault: 'f3', as: 'dismissed' },
    ]);
    const before = picture.unsent.length;
    dismiss(picture.entries);
    expect(picture.unsent).toHaveLength(before);
  });

  it('is taken back: mends come off, judgements are open again, what is open stays', () => {
    const picture = opened({ mends: [healOf(1, { fault: 'f1' })] });
    const { setAside, takeBack } = useLedgerWork();
    setAside(picture.entries.filter(({ id }) => id === 'f2'));
    takeBack(picture.entries);
    expect(sent()).toEqual([
      { op: 'drop', id: 'h1' },
      { op: 'judge', fault: 'f2', as: 'open' },
    ]);
    expect(picture.entries.every(({ state }) => state === 'open')).toBe(true);
  });

  it('gives another kind, and the finder’s own back', () => {
    const picture = opened({});
    const { nameKind } = useLedgerWork();
    nameKind(picture.entries.slice(0, 1), 'fibre');
    expect(sent()).toEqual([{ op: 'name', fault: 'f1', as: 'fibre' }]);
    nameKind(picture.entries.slice(0, 2), 'speck');
    expect(sent()).toEqual([{ op: 'name', fault: 'f1', as: null }]);
  });

  it('takes only its own marks off, with what was decided about them', () => {
    const picture = opened({});
    picture.perform({ words: '', steps: [{ op: 'mark', fault: { ...speckOf(9), id: 'own' } }] });
    const { dismiss, nameKind, unmark } = useLedgerWork();
    const own = () => picture.entries.filter(({ id }) => id === 'own');
    nameKind(own(), 'fibre');
    dismiss(own());
    unmark(picture.entries);
    expect(sent().map(({ op }) => op)).toEqual(['judge', 'name', 'unmark']);
    expect(picture.entries.map(({ id }) => id)).toEqual(['f1', 'f2', 'f3']);
  });
});

describe('a change of mends', () => {
  it('is one step for all of them, and passes over those that are locked', () => {
    const picture = opened({ mends: [healOf(1), healOf(2, { locked: true }), healOf(3)] });
    const { switchAll, removeAll, lockAll } = useMendChanges();
    switchAll(picture.mends, false);
    expect(picture.mends.map(({ on }) => on)).toEqual([false, true, false]);
    lockAll(picture.mends, false);
    expect(picture.mends.every(({ locked }) => !locked)).toBe(true);
    lockAll(picture.mends.slice(0, 1), true);
    removeAll(picture.mends);
    expect(picture.mends.map(({ id }) => id)).toEqual(['h1']);
    expect(picture.unsent).toHaveLength(4);
  });

  it('that changes nothing is no step', () => {
    const picture = opened({ mends: [healOf(1)] });
    const { switchAll, useSource } = useMendChanges();
    switchAll(picture.mends, true);
    useSource(picture.mends[0], { dx: 20, dy: 0 });
    expect(picture.unsent).toEqual([]);
    useSource(picture.mends[0], { dx: -20, dy: 5 });
    expect(picture.mends[0]).toMatchObject({ source: { dx: -20, dy: 5 } });
  });

  it('to a source from which nothing can be taken is not made, and that is said', () => {
    const picture = opened({ mends: [healOf(1)] });
    const { change } = useMendChanges();
    change({ ...healOf(1), source: { dx: 5000, dy: 0 } }, '');
    expect(picture.unsent).toEqual([]);
    expect(picture.notice).not.toBeNull();
    change({ ...healOf(1), source: { dx: -58, dy: 0 } }, '');
    expect(picture.unsent).toHaveLength(1);
    expect(picture.notice).not.toBeNull();
  });

  it('is called by its method, or by none where there are several', () => {
    expect(doneVerb([healOf(1), healOf(2)])).toEqual(expect.objectContaining({ key: 'done.heal' }));
    const clone = { ...healOf(2), method: 'clone', reads: 'as it is', laying: 'dabs', buildUp: false };
    expect(doneVerb([healOf(1), clone as never])).toEqual(expect.objectContaining({ key: 'done.several' }));
  });
});

describe('what a new mend keeps clear of', () => {
  it('are the open faults and the sources that are in use, as the ledger stands now', () => {
    const picture = opened({ mends: [healOf(1, { fault: 'f1' })] });
    expect(openPlacesNow()).toHaveLength(2);
    const { avoid, used } = surroundingsNow();
    expect(avoid).toHaveLength(2);
    expect([...used]).toHaveLength(1);
    useLedgerWork().dismiss(picture.entries);
    expect(openPlacesNow()).toEqual([]);
  });
});

describe('guards and zones', () => {
  it('get names that are free, keep their own when they are renamed to nothing, and soften once', () => {
    const picture = opened({ fences: [zone] });
    const { newFence, put, rename, soften, switchOn } = useFencing();
    put(newFence('zone', zone.area), '');
    put(newFence('zone', zone.area), '');
    const names = picture.fences.map(({ name }) => name);
    expect(new Set(names).size).toBe(3);
    rename(picture.fences[0], '   ');
    soften(picture.fences[0], 0);
    expect(picture.unsent).toHaveLength(2);
    rename(picture.fences[0], ' Water ');
    switchOn(picture.fences[0], false);
    soften(picture.fences[0], 12);
    expect(picture.fences[0]).toMatchObject({ name: 'Water', on: false, edge: 12 });
  });

  it('set the mends free that named them when they are taken away, in the same step', () => {
    const picture = opened({ fences: [zone], mends: [healOf(1, { zone: 'z' }), healOf(2)] });
    useFences().currentId = 'z';
    useFencing().remove(zone);
    expect(picture.fences).toEqual([]);
    expect(picture.mends.some(({ zone: bound }) => bound !== undefined)).toBe(false);
    expect(picture.mends.map(({ id }) => id)).toEqual(['h1', 'h2']);
    expect(picture.unsent).toHaveLength(1);
    expect(useFences().currentId).toBeNull();
  });

  it('lay the tool of their kind into the hand when they are drawn on', () => {
    opened({ fences: [zone] });
    const { drawOn } = useFencing();
    drawOn(zone);
    expect(useFences().current?.name).toBe('Sky');
    drawOn(null);
    expect(useFences().current).toBeNull();
  });
});
