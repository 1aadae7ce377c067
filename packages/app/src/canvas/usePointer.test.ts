// @vitest-environment jsdom
import { mount } from '@vue/test-utils';
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import { defineComponent, h, nextTick, ref } from 'vue';
import type { Gesture, PointerActions } from './usePointer.ts';
import { usePointer } from './usePointer.ts';

/** A table of 400 by 300 pixels, and what its pointer begins. */
async function tableWith(begun: Gesture | null = null) {
  const actions = {
    view: ref({ x: 200, y: 150, scale: 1, turn: 0 }),
    table: ref({ width: 400, height: 300 }),
    moveTo: vi.fn(),
    begin: vi.fn(() => begun),
    click: vi.fn(),
    menu: vi.fn(),
    fold: () => 0,
    resize: vi.fn(),
  };
  let state: ReturnType<typeof usePointer> | undefined;
  const part = mount(
    defineComponent(() => {
      const stage = ref<HTMLElement | null>(null);
      state = usePointer(stage, actions as unknown as PointerActions);
      return () => h('div', { ref: stage });
    }),
    { attachTo: document.body },
  );
  // Listeners are put on once it stands.
  await nextTick();
  const element = part.element as HTMLElement;
  element.setPointerCapture = vi.fn();
  element.releasePointerCapture = vi.fn();
  element.hasPointerCapture = () => true;
  const point = (type: string, x: number, y: number, more: PointerEventInit = {}): void => {
    const event = new PointerEvent(type, {
      ...{ bubbles: true, clientX: x, clientY: y, button: 0, buttons: 1 },
      ...{ pointerId: 1, pointerType: 'mouse', pressure: 0.5, isPrimary: true },
      ...more,
    });
    event.getCoalescedEvents = () => [event];
    element.dispatchEvent(event);
  };
  return { actions, point, state: () => state, element };
}
const gesture = () => ({ move: vi.fn(), end: vi.fn(), cancel: vi.fn() });

describe('the pointer on the table', () => {
  beforeEach(() => void vi.useFakeTimers({ toFake: ['setTimeout', 'clearTimeout'] }));
  afterEach(() => {
    vi.useRealTimers();
    document.body.innerHTML = '';
  });

  it('clicks where it is pressed and let go without being moved', async () => {
    const { actions, point } = await tableWith();
    point('pointerdown', 50, 60);
    point('pointerup', 51, 61);
    expect(actions.click).toHaveBeenCalledTimes(1);
    expect(actions.moveTo).not.toHaveBeenCalled();
  });

  it('pans where a press begins nothing and is moved', async () => {
    const { actions, point } = await tableWith();
    point('pointerdown', 50, 60);
    point('pointermove', 90, 100);
    point('pointerup', 90, 100);
    expect(actions.moveTo).toHaveBeenCalled();
    expect(actions.click).not.toHaveBeenCalled();
  });

  it('draws where a press begins a gesture, to its end', async () => {
    const drawn = gesture();
    const { actions, point } = await tableWith(drawn);
    point('pointerdown', 50, 60);
    point('pointermove', 90, 100);
    point('pointerup', 120, 130);
    expect(actions.begin).toHaveBeenCalledTimes(1);
    expect(drawn.move).toHaveBeenCalled();
    expect(drawn.end).toHaveBeenCalledTimes(1);
    expect(drawn.cancel).not.toHaveBeenCalled();
    expect(actions.moveTo).not.toHaveBeenCalled();
  });

  it('cancels what was begun when the system takes it away', async () => {
    const drawn = gesture();
    const { point } = await tableWith(drawn);
    point('pointerdown', 50, 60);
    point('pointercancel', 50, 60);
    expect(drawn.cancel).toHaveBeenCalledTimes(1);
    expect(drawn.end).not.toHaveBeenCalled();
  });

  it('cancels what one finger began when a second comes down, and turns and zooms with both', async () => {
    const drawn = gesture();
    const { actions, point } = await tableWith(drawn);
    const finger = (id: number) => ({ pointerId: id, pointerType: 'touch', isPrimary: id === 1 });
    point('pointerdown', 100, 100, finger(1));
    point('pointerdown', 200, 100, finger(2));
    expect(drawn.cancel).toHaveBeenCalledTimes(1);
    point('pointermove', 300, 100, finger(2));
    expect(actions.moveTo).toHaveBeenCalled();
    const [view] = actions.moveTo.mock.lastCall as [{ scale: number }];
    expect(view.scale).toBeGreaterThan(1);
  });

  it('opens the menu under a finger that rests, and draws nothing then', async () => {
    const drawn = gesture();
    const { actions, point } = await tableWith(drawn);
    const finger = { pointerType: 'touch' };
    point('pointerdown', 100, 100, finger);
    vi.advanceTimersByTime(1000);
    expect(actions.menu).toHaveBeenCalledWith(100, 100);
    expect(drawn.cancel).toHaveBeenCalledTimes(1);
    point('pointerup', 100, 100, finger);
    expect(drawn.end).not.toHaveBeenCalled();
    expect(actions.click).not.toHaveBeenCalled();
  });

  it('zooms with the wheel around what lies under it, and resizes the mark with shift', async () => {
    const { actions, element } = await tableWith();
    const turn = (more: WheelEventInit): boolean =>
      element.dispatchEvent(new WheelEvent('wheel', { cancelable: true, clientX: 50, clientY: 60, ...more }));
    // The page itself is not scrolled.
    expect(turn({ deltaY: -100 })).toBe(false);
    const [view] = actions.moveTo.mock.lastCall as [{ scale: number }];
    expect(view.scale).toBeGreaterThan(1);
    turn({ deltaY: -100, shiftKey: true });
    turn({ deltaY: 100, shiftKey: true });
    expect(actions.resize.mock.calls).toEqual([[1], [-1]]);
    expect(actions.moveTo).toHaveBeenCalledTimes(1);
  });

  it('is nowhere once it has left', async () => {
    const { point, state } = await tableWith();
    point('pointermove', 50, 60, { buttons: 0 });
    expect(state()?.pointer.value).not.toBeNull();
    point('pointerleave', 500, 600);
    expect(state()?.pointer.value).toBeNull();
  });
});
