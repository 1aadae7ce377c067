import type { Ref } from 'vue';
import type { Gesture, PointerPlace } from '../canvas/usePointer.ts';
import type { PenPoint } from '../canvas/penPoint.ts';
import { fewestPoints, startStroke } from './penStroke.ts';
import type { Pending } from '../canvas/pending.ts';

export interface CourseTable {
  readonly pending: Ref<Pending | null>;
  readonly scale: number;
  readonly onPicture: (place: PointerPlace) => PenPoint;
  /** Called when the line is complete. */
  readonly done: () => void;
}

/** A click this near to the last point ends the line, in screen pixels. */
const END_SLOP = 6;

/** Draws an open line: freely while dragging, or point by point by clicks; a second click on the last one ends it. */
export function courseGesture(
  place: PointerPlace,
  { pending, scale, onPicture, done }: CourseTable,
): Gesture {
  const before = pending.value?.kind === 'course' ? pending.value.points : [];
  const start = onPicture(place);
  const stroke = startStroke(start, scale);
  let isFree = false;
  const show = (points: readonly PenPoint[]): void => {
    pending.value = { kind: 'course', points: [...before, ...points] };
  };
  return {
    move(places) {
      isFree = true;
      for (const one of places) stroke.add(onPicture(one));
      show(stroke.points());
    },
    end() {
      if (isFree) {
        show(fewestPoints(stroke.points(), scale));
        if (before.length === 0) done();
        return;
      }
      const last = before.at(-1);
      const isEnd = last && Math.hypot(start.x - last.x, start.y - last.y) * scale < END_SLOP;
      if (isEnd) done();
      else show([start]);
    },
    cancel() {
      pending.value = before.length > 0 ? { kind: 'course', points: before } : null;
    },
  };
}
