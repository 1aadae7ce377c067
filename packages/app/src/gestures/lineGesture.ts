import type { Ref } from 'vue';
import type { Pending } from '../canvas/pending.ts';
import type { PenPoint } from '../canvas/penPoint.ts';
import type { Gesture, PointerPlace } from '../canvas/usePointer.ts';
import { fewestPoints, startStroke } from './penStroke.ts';

/** What a line is drawn on. */
export interface LineTable {
  readonly pending: Ref<Pending | null>;
  /** Screen pixels per pixel of the picture. */
  readonly scale: number;
  readonly onPicture: (place: PointerPlace) => PenPoint;
  /** Called when the line is complete. */
  readonly done: () => void;
}

/** What kind of line it is, and what completes it. */
export interface LineKind {
  readonly kind: 'outline' | 'course';
  /** The point of a line on which a click completes it; none where it cannot be complete yet. */
  readonly endOf: (points: readonly PenPoint[]) => PenPoint | undefined;
  /** How near to it a click must be, in screen pixels. */
  readonly slop: number;
}

/** Draws a line: freely while dragging, which completes it, or point by point by clicks until one completes it. */
export function lineGesture(
  place: PointerPlace,
  { pending, scale, onPicture, done }: LineTable,
  { kind, endOf, slop }: LineKind,
): Gesture {
  const before = pending.value?.kind === kind ? pending.value.points : [];
  const start = onPicture(place);
  const stroke = startStroke(start, scale);
  let isFree = false;
  const show = (points: readonly PenPoint[]): void => {
    pending.value = { kind, points: [...before, ...points] };
  };
  const isComplete = (): boolean => {
    const end = endOf(before);
    return end !== undefined && Math.hypot(start.x - end.x, start.y - end.y) * scale < slop;
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
      } else if (isComplete()) done();
      else show([start]);
    },
    cancel() {
      pending.value = before.length > 0 ? { kind, points: before } : null;
    },
  };
}
