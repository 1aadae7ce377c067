import type { Mend, ShiftMend } from '@fennip/core/mend';
import type { Rect } from '@fennip/core/raster';
import type { Shift } from '@fennip/core/source';
import type { Point, Target } from '@fennip/core/target';
import { isSourced, isTreatment, sourceOf } from '@fennip/core/mend';
import { targetBounds, movedTarget } from '@fennip/core/target';
import type { Ref } from 'vue';
import { usePicture } from '../stores/picture.ts';
import { useView } from '../stores/view.ts';
import type { Gesture, PointerPlace } from '../canvas/usePointer.ts';
import type { Sight, Size } from '../canvas/viewport.ts';
import { toScreen } from '../canvas/viewport.ts';
import { useMendChanges } from '../actions/useMendChanges.ts';
import { stepSaid } from '../i18n/say.ts';
import { movedMend, resizedTarget, withCornerPulled, withPoint, withSourceMoved } from './changeTarget.ts';
import { entriesUnder } from '../canvas/entriesUnder.ts';
import type { PenPoint } from '../canvas/penPoint.ts';

/** A handle is caught this far away, in screen pixels. */
const HANDLE_SLOP = 8;
/** A picture is moved against itself by at most so much across and down, in pixels. */
const MOST_SHIFT = 100;

/** A box on the screen. */
interface Box {
  readonly left: number;
  readonly top: number;
  readonly right: number;
  readonly bottom: number;
}

/** A press near a mend. */
interface Press {
  readonly mend: Mend;
  readonly place: PointerPlace;
  /** The press on the picture. */
  readonly start: PenPoint;
  /** The mend's box. */
  readonly box: Box;
  readonly middle: Point;
}

const NO_SHIFT: Shift = { dx: 0, dy: 0 };

const isIn = ({ left, top, right, bottom }: Box, { sx, sy }: PointerPlace, slop: number): boolean =>
  sx >= left - slop && sx <= right + slop && sy >= top - slop && sy <= bottom + slop;

const isOnCorner = ({ place: { sx, sy }, box, middle: [midX, midY] }: Press): boolean =>
  Math.abs(Math.abs(sx - midX) - (box.right - box.left) / 2) <= HANDLE_SLOP &&
  Math.abs(Math.abs(sy - midY) - (box.bottom - box.top) / 2) <= HANDLE_SLOP;

export interface HoldTable {
  readonly view: Ref<Sight>;
  readonly table: Ref<Size>;
  readonly onPicture: (place: PointerPlace) => PenPoint;
}

/** What presses take hold of about a mend that is there: its source, a handle, its outline, what was painted of it. */
export function useTakingHold({ view, table, onPicture }: HoldTable) {
  const picture = usePicture();
  const looking = useView();
  const { change } = useMendChanges();

  /** Drags something about a mend, shown as it would be all the while; one step of history when it is let go. */
  function dragMend(mend: Mend, words: string, changed: (to: PenPoint) => Mend): Gesture {
    let latest: Mend | null = null;
    return {
      move(places) {
        latest = changed(onPicture(places[places.length - 1]));
        void picture.draft(latest);
      },
      end() {
        if (latest) change(latest, words);
        else looking.choose([mend.fault ?? mend.id]);
      },
      cancel() {
        void picture.draft(null);
      },
    };
  }

  const exactShift = (start: PenPoint, to: PenPoint): Shift => ({ dx: to.x - start.x, dy: to.y - start.y });

  const shiftFrom = (start: PenPoint, to: PenPoint): Shift => ({
    dx: Math.round(to.x - start.x),
    dy: Math.round(to.y - start.y),
  });

  /** Drags an outline onto good texture, or, with Alt, the good piece in it onto the fault. */
  function dragOutline(mend: Mend, start: PenPoint, isPiece: boolean): Gesture {
    const before = sourceOf(mend) ?? { dx: 0, dy: 0 };
    if (!isPiece)
      return dragMend(mend, stepSaid('step.outlineToSource'), (to) => {
        const { dx, dy } = shiftFrom(start, to);
        return isSourced(mend) ? { ...mend, source: { ...before, dx, dy } } : mend;
      });
    return dragMend(mend, stepSaid('step.pieceToFault'), (to) => {
      const shift = shiftFrom(start, to);
      const moved = movedMend(mend, shift);
      const source = { ...before, dx: -shift.dx, dy: -shift.dy };
      return isSourced(moved) ? { ...moved, source } : moved;
    });
  }

  const boxOnScreen = (bounds: Rect, shift: Shift): Box => {
    // A picture that is seen turned shows a box as the least upright one that holds it.
    const [near, far] = [bounds.left + shift.dx, bounds.top + shift.dy];
    const places = [
      [near, far],
      [near + bounds.width, far],
      [near, far + bounds.height],
      [near + bounds.width, far + bounds.height],
    ].map(([x, y]) => toScreen(view.value, table.value, x, y));
    const [xs, ys] = [places.map(([x]) => x), places.map(([, y]) => y)];
    const [left, right] = [Math.min(...xs), Math.max(...xs)];
    const [top, bottom] = [Math.min(...ys), Math.max(...ys)];
    return { left, top, right, bottom };
  };

  /** A stroke of what was painted: dragged by one of its points, or as a whole unless that means something else. */
  function takeHoldOfPaint(mend: Mend, place: PointerPlace): Gesture | null {
    const start = onPicture(place);
    const paint = mend.paint ?? [];
    const withShape = (at: number, shape: Target): Mend => ({
      ...mend,
      paint: paint.map((stroke, k) => (k === at ? { ...stroke, shape } : stroke)),
    });
    // The stroke that was painted last lies on top.
    for (let at = paint.length - 1; at >= 0; at--) {
      const { shape } = paint[at];
      if (shape.shape === 'stroke' || shape.shape === 'outline') {
        const index = pointNear(shape.points, place);
        if (index >= 0)
          return dragMend(mend, stepSaid('step.reshaped'), ({ x, y }) =>
            withShape(at, withPoint(shape, index, [x, y])),
          );
      }
      if (mend.method !== 'shift' && entriesUnder(shape, [start]).length > 0)
        return dragMend(mend, stepSaid('step.movedStroke'), (to) =>
          withShape(at, movedTarget(shape, shiftFrom(start, to))),
        );
    }
    return null;
  }

  /** The copy of the picture that is held against it follows the hand. */
  function dragAgainstItself(mend: ShiftMend, place: PointerPlace): Gesture | null {
    const start = onPicture(place);
    if (entriesUnder(mend.target, [start]).length === 0) return null;
    const within = (value: number): number => Math.max(-MOST_SHIFT, Math.min(MOST_SHIFT, value));
    return dragMend(mend, stepSaid('step.shifted'), (to) => {
      const { dx, dy } = shiftFrom(start, to);
      return { ...mend, dx: within(mend.dx - dx), dy: within(mend.dy - dy) };
    });
  }

  /** Which of some points lies under a place of the screen; -1 for none. */
  const pointNear = (points: readonly Point[], { sx, sy }: PointerPlace): number =>
    points.findIndex(([x, y]) => {
      const [px, py] = toScreen(view.value, table.value, x, y);
      return Math.hypot(px - sx, py - sy) <= HANDLE_SLOP;
    });

  /** The mend's box on the screen, and where in it a press lies. */
  function pressOn(mend: Mend, place: PointerPlace): Press {
    const box = boxOnScreen(targetBounds(mend.target, mend.margin), NO_SHIFT);
    const middle: Point = [(box.left + box.right) / 2, (box.top + box.bottom) / 2];
    return { mend, place, start: onPicture(place), box, middle };
  }

  function holdSource({ mend, place, start }: Press): Gesture | null {
    const source = sourceOf(mend);
    if (!source || !isIn(boxOnScreen(targetBounds(mend.target, mend.margin), source), place, 2)) return null;
    return dragMend(mend, stepSaid('step.movedSource'), (to) => withSourceMoved(mend, shiftFrom(start, to)));
  }

  function holdPoint({ mend, place }: Press): Gesture | null {
    if (mend.target.shape !== 'stroke' && mend.target.shape !== 'outline') return null;
    const index = pointNear(mend.target.points, place);
    if (index < 0) return null;
    return dragMend(mend, stepSaid('step.reshaped'), ({ x, y }) => reshaped(mend, index, [x, y]));
  }

  /** A corner resizes; with Alt it pulls the copy out of shape, where there is a source. */
  function holdCorner(press: Press, isPulling: boolean): Gesture | null {
    const { mend } = press;
    if (mend.method === 'recover' || !isOnCorner(press)) return null;
    return isPulling && sourceOf(mend) ? pullCorner(press) : resizeFrom(press);
  }

  function pullCorner({ mend, place: { sx, sy }, start, middle: [midX, midY] }: Press): Gesture {
    const corner = sy < midY ? (sx < midX ? 0 : 1) : sx < midX ? 3 : 2;
    return dragMend(mend, stepSaid('step.pulled'), (to) =>
      withCornerPulled(mend, corner, exactShift(start, to)),
    );
  }

  function resizeFrom({ mend, place: { sx, sy }, middle: [midX, midY] }: Press): Gesture {
    const away = (x: number, y: number): number => Math.max(1, Math.hypot(x - midX, y - midY));
    return dragMend(mend, stepSaid('step.resized'), (to) => {
      const [tx, ty] = toScreen(view.value, table.value, to.x, to.y);
      return { ...mend, target: resizedTarget(mend.target, away(tx, ty) / away(sx, sy)) };
    });
  }

  function holdAll({ mend, place, start, box }: Press): Gesture | null {
    if (!isIn(box, place, 0)) return null;
    return dragMend(mend, stepSaid('step.moved'), (to) => movedMend(mend, shiftFrom(start, to)));
  }

  /** What of the chosen mend a press takes hold of: its source, a corner, a point of its line, or all of it. */
  function takeHold(place: PointerPlace, isPulling: boolean): Gesture | null {
    const mend = looking.focusEntry?.mend;
    if (!mend || mend.locked || looking.chosen.size !== 1) return null;
    if (mend.method === 'shift') return takeHoldOfPaint(mend, place) ?? dragAgainstItself(mend, place);
    if (isTreatment(mend) || mend.paint) return takeHoldOfPaint(mend, place);
    const press = pressOn(mend, place);
    return holdSource(press) ?? holdPoint(press) ?? holdCorner(press, isPulling) ?? holdAll(press);
  }

  /** A point of a line or an outline elsewhere; what was fitted to a line does not follow its points. */
  const reshaped = (mend: Mend, index: number, place: Point): Mend =>
    mend.method === 'recover' ? mend : { ...mend, target: withPoint(mend.target, index, place) };

  return { dragOutline, takeHold };
}
