import type { NumberedFault } from '@fennip/core/fault';
import { createPinia, setActivePinia } from 'pinia';
import { beforeEach, describe, expect, it } from 'vitest';
import { nextTick } from 'vue';
import { usePicture } from './picture.ts';
import { MARK_CHOICES, useView } from './view.ts';

const faultOf = (number: number): NumberedFault => ({
  ...{ id: `f${number}`, number, kind: 'speck', polarity: 'dark' },
  ...{ x: 10 * number, y: 5, r: 2, strength: 0.4, softness: 0.3, confidence: 0.9 },
});

describe('what is chosen on a picture', () => {
  beforeEach(() => {
    setActivePinia(createPinia());
    usePicture().faults = [1, 2, 3].map(faultOf);
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
    usePicture().faults = [faultOf(3)];
    expect(view.chosenEntries.map(({ id }) => id)).toEqual(['f3']);
    expect(view.focusEntry).toBeNull();
  });

  it('waits for a picture that is not open, and for a fault that is not listed yet', async () => {
    const view = useView();
    view.seek({ picture: 'p', fault: 'f9', x: 1, y: 2, r: 3 });
    await nextTick();
    expect(view.destination).toBeNull();
    usePicture().picture = { id: 'p' } as NonNullable<ReturnType<typeof usePicture>['picture']>;
    await nextTick();
    expect(view.destination).toBeNull();
    usePicture().faults = [faultOf(9)];
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
