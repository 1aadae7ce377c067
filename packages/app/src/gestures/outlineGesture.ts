import type { Ref } from 'vue';
import type { Gesture, PointerPlace } from '../canvas/usePointer.ts';
import type { Pending } from '../canvas/pending.ts';
import type { PenPoint } from '../canvas/penPoint.ts';
import { fewestPoints, startStroke } from './penStroke.ts';

export interface OutlineTable {
  readonly pending: Ref<Pending | null>;
  /** Screen pixels per pixel of the picture. */
  readonly scale: number;
  readonly onPicture: (place: PointerPlace) => PenPoint;
  /** Closes what is drawn so far. */
  readonly close: () => void;
}

/** A polygon closes when its first corner is clicked within this distance, in screen pixels. */
const CLOSE_SLOP = 9;

/** Draws an outline: freely while dragging, which closes it, or corner by corner by clicks until the first is clicked again. */
export function outlineGesture(
  place: PointerPlace,
  { pending, scale, onPicture, close }: OutlineTable,
): Gesture {
  const before = pending.value?.kind === 'outline' ? pending.value.points : [];
  const start = onPicture(place);
  const stroke = startStroke(start, scale);
  let isFree = false;
  const show = (points: readonly PenPoint[]): void => {
    pending.value = { kind: 'outline', points: [...before, ...points] };
  };
  const isOnFirst = (): boolean =>
    before.length >= 3 && Math.hypot(start.x - before[0].x, start.y - before[0].y) * scale < CLOSE_SLOP;
  return {
    move(places) {
      isFree = true;
      for (const one of places) stroke.add(onPicture(one));
      show(stroke.points());
    },
    end() {
      if (isFree) {
        show(fewestPoints(stroke.points(), scale));
        if (before.length === 0) close();
      } else if (isOnFirst()) close();
      else show([start]);
    },
    cancel() {
      pending.value = before.length > 0 ? { kind: 'outline', points: before } : null;
    },
  };
}
