import { createPinia, setActivePinia } from 'pinia';
import { beforeEach, describe, expect, it } from 'vitest';
import { nextTick } from 'vue';
import { usePicture } from './picture.ts';
import { pictureSheet, speckOf } from '../testing/pictureSheet.ts';
import { MARK_CHOICES, useView } from './view.ts';

const showFaults = (...numbers: readonly number[]): void =>
  usePicture().takeSheet(pictureSheet({ faults: numbers.map(speckOf) }));
const openAnother = (...numbers: readonly number[]): void =>
  usePicture().takeSheet(pictureSheet({ id: 'another', faults: numbers.map(speckOf) }));

describe('what is chosen on a picture', () => {
  beforeEach(() => {
    setActivePinia(createPinia());
    showFaults(1, 2, 3);
  });

  it('is shown by the first of it, and by another one when that is let go', () => {
    const view = useView();
    view.choose(['f2', 'f3']);
    expect(view.focusEntry?.number).toBe(2);
    view.toggle('f2');
    expect([...view.chosen]).toEqual(['f3']);
    expect(view.focus).toBe('f3');
    view.toggle('f3');
    expect(view.focus).toBeNull();
    expect(view.chosenEntries).toEqual([]);
  });

  it('leaves out what is no longer listed', () => {
    const view = useView();
    view.choose(['f2', 'f3']);
    showFaults(3);
    expect(view.chosenEntries.map(({ id }) => id)).toEqual(['f3']);
    expect(view.focusEntry).toBeNull();
  });

  it('waits for a picture that is not open, and for a fault that is not listed yet', async () => {
    const view = useView();
    view.seek({ picture: 'another', fault: 'f9', x: 1, y: 2, r: 3 });
    await nextTick();
    expect(view.destination).toBeNull();
    openAnother(1);
    await nextTick();
    expect(view.destination).toBeNull();
    openAnother(9);
    await nextTick();
    expect(view.destination).toMatchObject({ x: 1, y: 2, r: 3 });
    expect([...view.chosen]).toEqual(['f9']);
  });

  it('a comparison that is taken up twice is laid down, and the marks come round again', () => {
    const view = useView();
    view.compareBy('split');
    expect(view.comparison).toBe('split');
    view.compareBy('difference');
    expect(view.comparison).toBe('difference');
    view.compareBy('difference');
    expect(view.comparison).toBe('none');
    const first = view.marks;
    const seen = MARK_CHOICES.map(() => {
      view.turnMarks();
      return view.marks;
    });
    expect(new Set(seen).size).toBe(MARK_CHOICES.length);
    expect(view.marks).toBe(first);
  });
});
