import type { LedgerEntry } from '@fennip/core/ledger';
import type { Mend } from '@fennip/core/mend';
import type { Rect } from '@fennip/core/raster';
import type { Target } from '@fennip/core/target';
import type { Ref } from 'vue';
import { shallowRef } from 'vue';
import { usePointing } from './usePointing.ts';
import { useFences } from '../stores/fences.ts';
import { isFenceTool, isTreatTool, useHand } from '../stores/hand.ts';
import { useView } from '../stores/view.ts';
import type { Gesture, PointerPlace } from '../canvas/usePointer.ts';
import type { Sight, Size } from '../canvas/viewport.ts';
import { toPicture } from '../canvas/viewport.ts';
import { useLeading } from '../actions/useLeading.ts';
import { useTreating } from '../actions/useTreating.ts';
import { boxGesture } from './boxGesture.ts';
import { courseGesture } from './courseGesture.ts';
import { entriesUnder } from '../canvas/entriesUnder.ts';
import { fetchTilesAlong } from './fetchTilesAlong.ts';
import { outlineGesture } from './outlineGesture.ts';
import type { Pending } from '../canvas/pending.ts';
import { penGesture } from './penGesture.ts';
import type { PenPoint } from '../canvas/penPoint.ts';
import { asPoint, outlineTarget, penTarget } from './penStroke.ts';
import { rectangleTarget } from './rectangleTarget.ts';
import { useLaying } from './useLaying.ts';
import { useTakingHold } from './useTakingHold.ts';

export interface GestureTable {
  readonly view: Ref<Sight>;
  readonly table: Ref<Size>;
  /** The entry whose mark lies under a point of the screen. */
  readonly entryAt: (sx: number, sy: number) => LedgerEntry | null;
  /** The entries whose marks meet a part of the picture. */
  readonly entriesWithin: (rect: Rect) => LedgerEntry[];
}

/** Radius of a touch from which an area grows, in screen pixels. */
const TOUCH = 5;

const nothing = (): void => undefined;
/** A gesture that is over when it begins: the press was all of it. */
const PRESS: Gesture = { move: nothing, end: nothing, cancel: nothing };

/** What presses on the table begin: drawing with an armed method, setting a source, moving a mend, framing marks. */
export function useGestures({ view, table, entryAt, entriesWithin }: GestureTable) {
  const looking = useView();
  const hand = useHand();
  const fences = useFences();
  const treating = useTreating();
  const leading = useLeading();
  const pointing = usePointing({ view, table });
  const { isPaintedOver, lay, laying } = useLaying(entriesWithin);
  const pending = shallowRef<Pending | null>(null);
  /** Where the last stroke ended: a click with shift goes on from there. */
  let lastEnd: PenPoint | null = null;

  const onPicture = ({ sx, sy, pressure }: PointerPlace): PenPoint => {
    const [x, y] = toPicture(view.value, table.value, sx, sy);
    return { x, y, pressure };
  };
  const { dragOutline, takeHold } = useTakingHold({ view, table, onPicture });
  /** What every gesture draws on. */
  const surface = () => ({ pending, onPicture, scale: view.value.scale });

  /** True if what is drawn is a mend of one place. */
  const isMending = (): boolean =>
    hand.tool !== null && hand.tool !== 'mark' && !isFenceTool(hand.tool) && !isTreatTool(hand.tool);

  function drawPen(place: PointerPlace, event: PointerEvent): Gesture {
    const isTouch = isFenceTool(hand.tool) && fences.shape === 'touch';
    // A touch is as wide on the screen wherever one looks.
    const radius = isTouch ? TOUCH / view.value.scale : hand.current.radius;
    const start = onPicture(place);
    const along = isMending()
      ? fetchTilesAlong(start, radius, hand.choiceAt([start.x, start.y]).source)
      : nothing;
    return penGesture(place, {
      ...surface(),
      radius,
      straightFrom: event.shiftKey ? lastEnd : null,
      along,
      done(points, { altKey }) {
        lastEnd = points[points.length - 1];
        const target = snapToMark(penTarget(points, radius, hand.pressure === 'size'), place);
        const pressed = Math.max(...points.map(({ pressure }) => pressure));
        void lay({ target, points, pressed, isAway: altKey });
      },
    });
  }

  /** A touch on the mark of an open fault means that fault, wherever on the mark it is. */
  function snapToMark(target: Target, { sx, sy }: PointerPlace): Target {
    if (target.shape !== 'disc' || !isMending() || hand.tool === 'clone' || isPaintedOver(target))
      return target;
    const entry = entryAt(sx, sy);
    return entry?.state === 'open' ? { ...target, x: entry.x, y: entry.y } : target;
  }

  /** Ends the open line that was drawn: an edge goes on along it. */
  function closeCourse(): boolean {
    const drawn = pending.value;
    pending.value = null;
    if (drawn?.kind !== 'course' || drawn.points.length < 2) return false;
    void leading.draw(drawn.points.map(asPoint));
    return true;
  }

  /** Closes the polygon or the free line that was drawn, and lays it down. */
  function closeOutline(isAway = false): boolean {
    const drawn = pending.value;
    if (drawn?.kind === 'course') return closeCourse();
    if (drawn?.kind !== 'outline') return false;
    pending.value = null;
    const target = outlineTarget(drawn.points);
    if (!target) return false;
    void lay({ target, points: [...drawn.points, drawn.points[0]], pressed: 1, isAway });
    return true;
  }

  const drawOutline = (place: PointerPlace, { altKey }: PointerEvent): Gesture =>
    outlineGesture(place, { ...surface(), done: () => void closeOutline(altKey) });

  /** The outline that was laid last, while its method is in hand: dragging it shows it where the good texture is. */
  function lastOutline(start: PenPoint): Mend | null {
    const mend = looking.focusEntry?.mend;
    if (hand.tool === 'mark' || hand.shape !== 'outline' || pending.value !== null) return null;
    if (mend?.target.shape !== 'outline' || mend.locked) return null;
    if (mend.method !== 'heal' && mend.method !== 'clone') return null;
    return entriesUnder(mend.target, [start]).length > 0 ? mend : null;
  }

  /** Frames marks and chooses them. */
  const frameMarks = (place: PointerPlace): Gesture =>
    boxGesture(place, {
      ...surface(),
      done(box, { ctrlKey, metaKey }) {
        const framed = entriesWithin(box).map(({ id }) => id);
        looking.choose(ctrlKey || metaKey ? [...looking.chosen, ...framed] : framed);
      },
    });

  const drawRectangle = (place: PointerPlace): Gesture =>
    boxGesture(place, {
      ...surface(),
      done(box, { altKey }) {
        const target = rectangleTarget(box);
        if (target) void lay({ target, points: [onPicture(place)], pressed: 1, isAway: altKey });
      },
    });

  /** A rebuild takes from an area, or, by a click, from anywhere again. */
  const drawSourceArea = (place: PointerPlace): Gesture =>
    boxGesture(place, {
      ...surface(),
      done: (box) => leading.takeFrom(rectangleTarget(box)),
    });

  /** A press with a fence in hand. */
  function drawFence(place: PointerPlace, event: PointerEvent): Gesture {
    switch (fences.shape) {
      case 'rectangle':
        return drawRectangle(place);
      case 'outline':
        return drawOutline(place, event);
      case 'brush':
      case 'touch':
        return drawPen(place, event);
    }
  }

  /** A press while a source is being set: a place, an area for a rebuild, a colour to draw in. */
  function setSource(place: PointerPlace, { pointerType }: PointerEvent): Gesture {
    if (hand.tool === 'rebuild') return drawSourceArea(place);
    const { x, y } = onPicture(place);
    if (hand.tool === 'draw') {
      void treating.pickColour([x, y]);
      return PRESS;
    }
    if (pointerType === 'touch') hand.isSettingSource = false;
    hand.setSource([Math.round(x), Math.round(y)]);
    return PRESS;
  }

  /** A press with nothing in hand. */
  function beginLooking(place: PointerPlace, event: PointerEvent): Gesture | null {
    if (event.shiftKey) return frameMarks(place);
    return event.ctrlKey || event.metaKey ? null : takeHold(place, event.altKey);
  }

  function beginDrawing(place: PointerPlace, event: PointerEvent): Gesture {
    if (hand.tool === 'guide') return courseGesture(place, { ...surface(), done: closeCourse });
    if (hand.isSettingSource) return setSource(place, event);
    if (isFenceTool(hand.tool)) return drawFence(place, event);
    const start = onPicture(place);
    const outline = lastOutline(start);
    if (outline) return dragOutline(outline, start, event.altKey);
    return hand.shape === 'outline' ? drawOutline(place, event) : drawPen(place, event);
  }

  /** What a press begins; null where moving on pans. */
  function begin(place: PointerPlace, event: PointerEvent): Gesture | null {
    if (event.pointerType === 'pen') hand.hasPen = true;
    if (event.pointerType === 'touch' && hand.hasPen) return null;
    if (pointing.isOn.value) return pointing.begin(place, pending);
    return hand.tool === null ? beginLooking(place, event) : beginDrawing(place, event);
  }

  /** Forgets what is half drawn. @returns true if there was anything */
  function dropPending(): boolean {
    const had = pending.value !== null;
    pending.value = null;
    return had;
  }

  return { begin, closeOutline, dropPending, laying, pending };
}
