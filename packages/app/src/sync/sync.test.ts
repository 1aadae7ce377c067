import { describe, expect, it, vi } from 'vitest';
import { followLatest } from './followLatest.ts';
import { createPendingEdits } from './pendingEdits.ts';
import { createRepaintBus } from './repaintBus.ts';

const rect = { left: 0, top: 0, width: 8, height: 8 };

describe('a draft that is dragged', () => {
  it('is worked out for its first and its last place, and for none that was passed meanwhile', async () => {
    let place = 0;
    const worked: number[] = [];
    const finish: (() => void)[] = [];
    const show = followLatest(
      () => place,
      (at) => {
        worked.push(at);
        return new Promise<void>((resolve) => finish.push(resolve));
      },
    );
    const shown = show();
    for (place = 1; place < 9; place++) void show();
    finish[0]();
    await vi.waitFor(() => expect(worked).toHaveLength(2));
    finish[1]();
    await shown;
    expect(worked).toEqual([0, 9]);
  });

  it('is worked out again after one that failed', async () => {
    let fails = true;
    const show = followLatest(
      () => fails,
      (isBad) => (isBad ? Promise.reject(new Error('lost')) : Promise.resolve()),
    );
    await expect(show()).rejects.toThrow('lost');
    fails = false;
    await expect(show()).resolves.toBeUndefined();
  });
});

describe('an undo that comes while a stroke is being laid down', () => {
  it('waits for it, whether it is laid down or lost', async () => {
    const edits = createPendingEdits();
    const order: string[] = [];
    let lose: ((reason: Error) => void) | undefined;
    const stroke = new Promise<void>((_, reject) => (lose = reject)).finally(() => order.push('stroke'));
    edits.add(stroke);
    edits.afterAll(() => order.push('undo'));
    expect(order).toEqual([]);
    lose?.(new Error('no source'));
    await vi.waitFor(() => expect(order).toEqual(['stroke', 'undo']));
    edits.afterAll(() => order.push('at once'));
    expect(order.at(-1)).toBe('at once');
  });
});

describe('what is painted', () => {
  it('reaches everyone who shows it, each with what it listens to, until it stops', () => {
    const bus = createRepaintBus();
    const [one, other] = [vi.fn(), vi.fn()];
    const stop = bus.listen({ changed: one });
    bus.listen({ changed: other });
    bus.changed(rect, 3);
    stop();
    bus.changed(rect, null);
    expect(one.mock.calls).toEqual([[rect, 3]]);
    expect(other).toHaveBeenCalledTimes(2);
  });
});
