// @vitest-environment jsdom
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import HistoryButtons from '../bars/HistoryButtons.vue';
import { usePicture } from '../stores/picture.ts';
import { mountPart } from '../testing/mountPart.ts';
import { openPage } from '../testing/openPage.ts';
import { pictureSheet } from '../testing/pictureSheet.ts';
import HistoryList from './HistoryList.vue';

const step = (words: string, seq: number) => ({ seq, words, at: '2026-05-02T10:00:00Z' });

describe('the list of steps', () => {
  beforeEach(() => {
    openPage();
    usePicture().takeSheet(
      pictureSheet({
        done: [step('Healed 3 specks', 1), step('Drew a guard', 2)],
        undone: [step('Bridged a crease', 3)],
      }),
    );
  });
  afterEach(() => {
    vi.unstubAllGlobals();
    document.body.innerHTML = '';
  });

  it('has the last step first, what was taken back above it, and where one is stands out', () => {
    const list = mountPart(HistoryList);
    expect(list.findAll('button').map((button) => button.text())).toEqual([
      'Bridged a crease',
      'Drew a guard',
      'Healed 3 specks',
      'The picture as it came in',
    ]);
    expect(list.get('[aria-current=step]').text()).toBe('Drew a guard');
    expect(list.get('.ahead').text()).toBe('Bridged a crease');
  });

  it('goes to the step that is clicked', async () => {
    const goBy = vi.spyOn(usePicture(), 'goBy').mockImplementation(() => undefined);
    const list = mountPart(HistoryList);
    for (const button of list.findAll('button')) await button.trigger('click');
    expect(goBy.mock.calls.flat()).toEqual([1, 0, -1, -2]);
  });

  it('has buttons beside it that say what they would take back, and rest where there is nothing', async () => {
    const buttons = mountPart(HistoryButtons);
    const [undo, redo] = buttons.findAll('button');
    expect([undo, redo].map((button) => button.attributes('disabled'))).toEqual([undefined, undefined]);
    usePicture().takeSheet(pictureSheet());
    await buttons.vm.$nextTick();
    expect(undo.attributes('disabled')).toBeDefined();
    expect(redo.attributes('disabled')).toBeDefined();
  });
});
