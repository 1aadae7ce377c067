// @vitest-environment jsdom
import type { Fence } from '@fennip/core/fence';
import { emptyRecipe } from '@fennip/core/recipe';
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import BarNumber from '../controls/BarNumber.vue';
import FenceList from '../fence/FenceList.vue';
import LedgerActions from '../ledger/LedgerActions.vue';
import { useFences } from '../stores/fences.ts';
import { useHand } from '../stores/hand.ts';
import { usePicture } from '../stores/picture.ts';
import { useView } from '../stores/view.ts';
import { mountPart } from '../testing/mountPart.ts';
import { openPage } from '../testing/openPage.ts';
import { pictureSheet, speckOf } from '../testing/pictureSheet.ts';

// The mend of what is chosen would be made ahead after a moment: here nobody mends.
beforeEach(() => {
  vi.useFakeTimers({ toFake: ['setTimeout'] });
  openPage();
});
afterEach(() => {
  vi.useRealTimers();
  vi.unstubAllGlobals();
  document.body.innerHTML = '';
});

describe('a number in a bar', () => {
  const field = () =>
    mountPart(BarNumber, {
      ...{ name: 'bar.radius', does: 'bar.radius', min: 1, max: 60, modelValue: 12 },
    });

  it('takes what is typed, kept within its range', async () => {
    const bar = field();
    await bar.get('input').setValue('500');
    await bar.get('input').trigger('change');
    expect(bar.emitted('update:modelValue')?.flat()).toEqual([60]);
  });

  it('is left as it is by what is no number', async () => {
    const bar = field();
    await bar.get('input').setValue('');
    await bar.get('input').trigger('change');
    expect(bar.emitted('update:modelValue')).toBeUndefined();
  });
});

describe('the actions of the ledger', () => {
  const shown = () => {
    usePicture().takeSheet(pictureSheet({ faults: [1, 2, 3].map(speckOf) }));
    return mountPart(LedgerActions);
  };
  const button = (part: ReturnType<typeof mountPart>, text: string) =>
    part.findAll('button').find((one) => one.text().startsWith(text));

  it('rest while nothing is chosen', () => {
    const actions = shown();
    for (const text of ['Mend', 'Dismiss', 'Take back'])
      expect(button(actions, text)?.attributes('disabled'), text).toBeDefined();
  });

  it('dismiss what is chosen and open it again', async () => {
    const actions = shown();
    useView().choose(['f1', 'f2']);
    await actions.vm.$nextTick();
    expect(button(actions, 'Mend')?.text()).toContain('2');
    await button(actions, 'Dismiss')?.trigger('click');
    expect(usePicture().entries.map(({ state }) => state)).toEqual(['dismissed', 'dismissed', 'open']);
    await button(actions, 'Take back')?.trigger('click');
    expect(usePicture().entries.every(({ state }) => state === 'open')).toBe(true);
  });

  it('make way for how far a run is, with a way to stop it', async () => {
    const actions = shown();
    useView().mending = 0.4;
    await actions.vm.$nextTick();
    expect(actions.text()).toContain('40%');
    expect(button(actions, 'Stop')?.exists()).toBe(true);
  });
});

describe('the list of guards and zones', () => {
  const fence = (id: string, kind: Fence['kind'], name: string): Fence => ({
    ...{ id, kind, name, edge: 0, on: true },
    area: { shape: 'disc', x: 100, y: 100, r: 30 },
  });
  const shown = () => {
    const recipe = {
      ...emptyRecipe({ width: 600, height: 500 }),
      fences: [fence('a', 'guard', 'Face'), fence('b', 'zone', 'Sky')],
    };
    usePicture().takeSheet({ ...pictureSheet(), recipe });
    return mountPart(FenceList);
  };

  it('names each with its letter, and draws on the one that is clicked until it is clicked again', async () => {
    const list = shown();
    expect(list.findAll('.letter').map((letter) => letter.text())).toEqual(['A', 'B']);
    await list.findAll('button.name')[1].trigger('click');
    expect(useFences().currentId).toBe('b');
    expect(useHand().tool).toBe('zone');
    await list.findAll('button.name')[1].trigger('click');
    expect(useHand().tool).toBeNull();
  });

  it('takes a new name by Enter, and none by Escape', async () => {
    const list = shown();
    for (const [key, name] of [
      ['escape', 'Face'],
      ['enter', 'Child'],
    ]) {
      await list.findAll('button.name')[0].trigger('dblclick');
      await list.get('input.el-input__inner').setValue('Child');
      await list.get('input.el-input__inner').trigger(`keydown.${key}`);
      expect(usePicture().fences[0].name).toBe(name);
    }
  });

  it('switches one off as a step of history', async () => {
    const list = shown();
    await list.findAll('input[type=checkbox]')[0].trigger('change');
    expect(usePicture().fences.map(({ on }) => on)).toEqual([false, true]);
    expect(usePicture().unsent).toHaveLength(1);
  });

  it('is not there where there are none', () => {
    usePicture().takeSheet(pictureSheet());
    expect(mountPart(FenceList).find('section').exists()).toBe(false);
  });
});
