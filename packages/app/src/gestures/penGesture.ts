import type { Ref } from 'vue';
import type { Gesture, PointerPlace } from '../canvas/usePointer.ts';
import type { Pending } from '../canvas/pending.ts';
import type { PenPoint } from '../canvas/penPoint.ts';
import { fewestPoints, startStroke } from './penStroke.ts';

export interface PenTable {
  readonly pending: Ref<Pending | null>;
  /** Screen pixels per pixel of the picture. */
  readonly scale: number;
  readonly onPicture: (place: PointerPlace) => PenPoint;
  /** In pixels of the picture. */
  readonly radius: number;
  /** Where the last stroke ended: a straight line is drawn from there; none where a stroke of its own begins. */
  readonly straightFrom: PenPoint | null;
  /** Called with every new place while it is drawn. */
  readonly along: (places: readonly PenPoint[]) => void;
  /** Called with what was drawn. */
  readonly done: (points: readonly PenPoint[], event: PointerEvent) => void;
}

/** Draws a stroke, or a straight line from where the last one ended. */
export function penGesture(place: PointerPlace, table: PenTable): Gesture {
  const { pending, scale, onPicture, radius, straightFrom, along, done } = table;
  const start = onPicture(place);
  const line = straightFrom && [straightFrom, start];
  const stroke = startStroke(start, scale);
  const show = (): void => {
    pending.value = { kind: 'pen', points: line ?? stroke.points(), radius };
  };
  show();
  return {
    move(places) {
      if (line) return;
      const added = places.map(onPicture);
      for (const one of added) stroke.add(one);
      along(added);
      show();
    },
    end(event) {
      pending.value = null;
      done(line ?? fewestPoints(stroke.points(), scale), event);
    },
    cancel() {
      pending.value = null;
    },
  };
}
