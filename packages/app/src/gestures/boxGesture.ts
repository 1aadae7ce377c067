import type { Rect } from '@fennip/core/raster';
import type { Ref } from 'vue';
import type { Gesture, PointerPlace } from '../canvas/usePointer.ts';
import type { Pending } from '../canvas/pending.ts';
import type { PenPoint } from '../canvas/penPoint.ts';

export interface BoxTable {
  readonly pending: Ref<Pending | null>;
  readonly onPicture: (place: PointerPlace) => PenPoint;
  /** Called with the box, upright on the picture, without extent where it was no more than a click. */
  readonly done: (box: Rect, event: PointerEvent) => void;
}

/** Drags a box open. */
export function boxGesture(place: PointerPlace, { pending, onPicture, done }: BoxTable): Gesture {
  const from = onPicture(place);
  let to = from;
  return {
    move(places) {
      to = onPicture(places[places.length - 1]);
      pending.value = { kind: 'frame', from, to };
    },
    end(event) {
      pending.value = null;
      const [left, top] = [Math.min(from.x, to.x), Math.min(from.y, to.y)];
      done({ left, top, width: Math.abs(to.x - from.x), height: Math.abs(to.y - from.y) }, event);
    },
    cancel() {
      pending.value = null;
    },
  };
}
