import fc from 'fast-check';
import { describe, expect, it, vi } from 'vitest';
import { shallowRef } from 'vue';
import type { Gesture, PointerPlace } from '../canvas/usePointer.ts';
import { boxGesture } from './boxGesture.ts';
import { courseGesture } from './courseGesture.ts';
import { outlineGesture } from './outlineGesture.ts';
import type { Pending } from '../canvas/pending.ts';
import { penGesture } from './penGesture.ts';
import type { PenPoint } from '../canvas/penPoint.ts';
import { rectangleTarget } from './rectangleTarget.ts';

const SCALE = 2;
const place = fc.record({
  sx: fc.integer({ min: 0, max: 800 }),
  sy: fc.integer({ min: 0, max: 600 }),
  pressure: fc.constant(1),
});
const at = (sx: number, sy: number): PointerPlace => ({ sx, sy, pressure: 1 });
const onPicture = ({ sx, sy, pressure }: PointerPlace): PenPoint => ({
  x: sx / SCALE,
  y: sy / SCALE,
  pressure,
});
// None of these gestures reads more of an event than its keys.
const EVENT = { altKey: false, ctrlKey: false, metaKey: false } as PointerEvent;

const surface = () => ({ pending: shallowRef<Pending | null>(null), onPicture, scale: SCALE });

const drag = (gesture: Gesture, places: readonly PointerPlace[]): void => {
  for (const one of places) gesture.move([one], EVENT);
};

describe('a stroke', () => {
  it('is seen while it is drawn, is handed over when it ends, and leaves nothing behind', () => {
    fc.assert(
      fc.property(fc.array(place, { minLength: 2, maxLength: 30 }), ([first, ...rest]) => {
        const on = surface();
        const done = vi.fn();
        const along = vi.fn();
        const gesture = penGesture(first, { ...on, radius: 5, straightFrom: null, along, done });
        expect(on.pending.value).toMatchObject({ kind: 'pen', radius: 5 });
        drag(gesture, rest);
        expect(along).toHaveBeenCalledTimes(rest.length);
        gesture.end(EVENT);
        expect(on.pending.value).toBeNull();
        const [points] = done.mock.calls[0] as [PenPoint[]];
        expect(points[0]).toMatchObject({ x: first.sx / SCALE, y: first.sy / SCALE });
        expect(points.at(-1)).toMatchObject({ x: rest[rest.length - 1].sx / SCALE });
      }),
    );
  });

  it('with shift is the straight line from where the last one ended, wherever the hand wanders', () => {
    const on = surface();
    const done = vi.fn();
    const straightFrom = { x: 1, y: 2, pressure: 1 };
    const gesture = penGesture(at(100, 100), { ...on, radius: 5, straightFrom, along: vi.fn(), done });
    drag(gesture, [at(400, 20), at(30, 500)]);
    gesture.end(EVENT);
    expect(done.mock.calls[0][0]).toEqual([straightFrom, { x: 50, y: 50, pressure: 1 }]);
  });

  it('that a second finger takes away was never drawn', () => {
    const on = surface();
    const done = vi.fn();
    const gesture = penGesture(at(9, 9), { ...on, radius: 5, straightFrom: null, along: vi.fn(), done });
    drag(gesture, [at(50, 50)]);
    gesture.cancel();
    expect(on.pending.value).toBeNull();
    expect(done).not.toHaveBeenCalled();
  });
});

describe('an outline', () => {
  const click = (on: ReturnType<typeof surface>, where: PointerPlace, close: () => void): void =>
    outlineGesture(where, { ...on, done: close }).end(EVENT);
  const corners = [at(100, 100), at(300, 100), at(200, 300)];

  it('grows by a corner with each click, and closes at its first corner', () => {
    const on = surface();
    const close = vi.fn();
    corners.forEach((corner, k) => {
      click(on, corner, close);
      const drawn = on.pending.value;
      expect(drawn?.kind === 'outline' && drawn.points.length).toBe(k + 1);
    });
    expect(close).not.toHaveBeenCalled();
    click(on, at(104, 97), close);
    expect(close).toHaveBeenCalledTimes(1);
  });

  it('of fewer than three corners does not close', () => {
    const on = surface();
    const close = vi.fn();
    for (const corner of [corners[0], corners[1], corners[0]]) click(on, corner, close);
    expect(close).not.toHaveBeenCalled();
  });

  it('that is drawn freely closes by itself, unless it goes on from clicked corners', () => {
    const [free, mixed] = [surface(), surface()];
    const [closeFree, closeMixed] = [vi.fn(), vi.fn()];
    const gesture = outlineGesture(at(0, 0), { ...free, done: closeFree });
    drag(gesture, corners);
    gesture.end(EVENT);
    expect(closeFree).toHaveBeenCalledTimes(1);
    click(mixed, at(0, 0), closeMixed);
    const next = outlineGesture(at(10, 10), { ...mixed, done: closeMixed });
    drag(next, corners);
    next.end(EVENT);
    expect(closeMixed).not.toHaveBeenCalled();
  });

  it('loses only its last piece when that is cancelled', () => {
    const on = surface();
    click(on, corners[0], vi.fn());
    const before = on.pending.value;
    const gesture = outlineGesture(corners[1], { ...on, done: vi.fn() });
    drag(gesture, [corners[2]]);
    gesture.cancel();
    expect(on.pending.value).toEqual(before);
  });
});

describe('an open line', () => {
  it('ends with a second click on its last point', () => {
    const on = surface();
    const done = vi.fn();
    for (const where of [at(0, 0), at(100, 0), at(200, 50)]) courseGesture(where, { ...on, done }).end(EVENT);
    expect(done).not.toHaveBeenCalled();
    courseGesture(at(202, 52), { ...on, done }).end(EVENT);
    expect(done).toHaveBeenCalledTimes(1);
  });
});

describe('a box', () => {
  it('is the same from whichever corner it is dragged, and on whole pixels as an outline', () => {
    fc.assert(
      fc.property(place, place, (from, to) => {
        const boxes = [
          [from, to],
          [to, from],
          [
            { ...from, sy: to.sy },
            { ...to, sy: from.sy },
          ],
        ].map(([start, end]) => {
          const done = vi.fn();
          const on = surface();
          const gesture = boxGesture(start, { ...on, done });
          drag(gesture, [end]);
          expect(on.pending.value).toMatchObject({ kind: 'frame' });
          gesture.end(EVENT);
          expect(on.pending.value).toBeNull();
          return (done.mock.calls[0] as [Parameters<typeof rectangleTarget>[0]])[0];
        });
        expect(boxes[1]).toEqual(boxes[0]);
        expect(boxes[2]).toEqual(boxes[0]);
        for (const [x, y] of rectangleTarget(boxes[0])?.points ?? [])
          expect([x, y]).toEqual([Math.round(x), Math.round(y)]);
      }),
    );
  });

  it('that is a click holds nothing, and is no outline', () => {
    const done = vi.fn();
    boxGesture(at(40, 40), { ...surface(), done }).end(EVENT);
    const [box] = done.mock.calls[0] as [Parameters<typeof rectangleTarget>[0]];
    expect(box).toEqual({ left: 20, top: 20, width: 0, height: 0 });
    expect(rectangleTarget(box)).toBeNull();
  });
});
