import type { Mend } from '@fennip/core/mend';
import type { Rect } from '@fennip/core/raster';
import type { OutlineTarget, Target } from '@fennip/core/target';
import { rectsMeet } from '@fennip/core/raster';
import { targetBounds } from '@fennip/core/target';
import type { Ref } from 'vue';
import { shallowRef } from 'vue';
import { useFences } from '../stores/fences.ts';
import { isFenceTool, isTreatTool, useHand } from '../stores/hand.ts';
import type { LedgerEntry } from '@fennip/core/ledger';
import { usePicture } from '../stores/picture.ts';
import { useTreatments } from '../stores/treatments.ts';
import { useView } from '../stores/view.ts';
import type { Gesture, PointerPlace } from '../table/usePointer.ts';
import type { Sight, Size } from '../table/viewport.ts';
import { toPicture, toScreen } from '../table/viewport.ts';
import { useFencing } from '../work/useFencing.ts';
import { useLedgerWork } from '../work/useLedgerWork.ts';
import { useTreating } from '../work/useTreating.ts';
import { useLeading } from '../work/useLeading.ts';
import { useMending } from '../work/useMending.ts';
import { usePointing } from '../stages/finish/usePointing.ts';
import { courseGesture } from './courseGesture.ts';
import { entriesUnder } from './entriesUnder.ts';
import { fetchTilesAlong } from './fetchTilesAlong.ts';
import type { Pending } from './pending.ts';
import type { PenPoint } from './penStroke.ts';
import { asPoint, fewestPoints, outlineTarget, penTarget, startStroke } from './penStroke.ts';
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
/** A polygon closes when its first corner is clicked within this distance, in screen pixels. */
const CLOSE_SLOP = 9;

/** What presses on the table begin: drawing with an armed method, setting a source, moving a mend, framing marks. */
export function useGestures({ view, table, entryAt, entriesWithin }: GestureTable) {
  const picture = usePicture();
  const looking = useView();
  const hand = useHand();
  const { mendDrawn, mendEntries } = useMending();
  const fences = useFences();
  const { drawn, touched } = useFencing();
  const treating = useTreating();
  const treatments = useTreatments();
  const { markDrawn } = useLedgerWork();
  const leading = useLeading();
  const pointing = usePointing({ view, table });
  const isTouch = (): boolean => isFenceTool(hand.tool) && fences.shape === 'touch';
  /** Whether what is drawn is a mend of one place. */
  const isMending = (): boolean =>
    hand.tool !== null && hand.tool !== 'mark' && !isFenceTool(hand.tool) && !isTreatTool(hand.tool);
  const pending = shallowRef<Pending | null>(null);
  /** Lines that were drawn and are not laid down yet: they stay in sight until they are. */
  const laying = shallowRef<readonly (readonly PenPoint[])[]>([]);
  /** Where the last stroke ended: a click with shift goes on from there. */
  let lastEnd: PenPoint | null = null;

  const onPicture = ({ sx, sy, pressure }: PointerPlace): PenPoint => {
    const [x, y] = toPicture(view.value, table.value, sx, sy);
    return { x, y, pressure };
  };
  const { dragOutline, takeHold } = useTakingHold({ view, table, onPicture });

  const liesOnPicture = ({ left, top, width, height }: Rect): boolean => {
    const sheet = picture.picture;
    return sheet !== null && left < sheet.width && top < sheet.height && left + width > 0 && top + height > 0;
  };

  /** Whether what was drawn paints another proposal over a rebuild: elsewhere it asks for a rebuild of its own. */
  function isPaintedOver(target: Target): boolean {
    const mend = hand.tool === 'rebuild' ? (treatments.over ?? treatments.current) : null;
    return mend !== null && rectsMeet(targetBounds(target, 0), targetBounds(mend.target, mend.margin));
  }

  /** Lays down what was drawn along some points; an undo that comes before it is laid waits for it. */
  async function lay(
    target: Target,
    points: readonly PenPoint[],
    pressed: number,
    isAway = false,
  ): Promise<void> {
    laying.value = [...laying.value, points];
    const laid = layTarget(target, points[0], pressed, isAway);
    picture.willEdit(laid);
    try {
      await laid;
    } finally {
      laying.value = laying.value.filter((line) => line !== points);
    }
  }

  /** A sweep with recover or heal mends every open fault under it, each for itself. */
  async function layTarget(target: Target, start: PenPoint, pressed: number, isAway: boolean): Promise<void> {
    const { tool: method } = hand;
    if (method === null || !liesOnPicture(targetBounds(target, 0))) return;
    if (isFenceTool(method)) return drawArea(target, isAway);
    if (isTreatTool(method) || isPaintedOver(target)) return treating.painted(target, isAway, pressed);
    // A guide is an open line, not a target.
    if (method === 'guide') return;
    if (method === 'mark') return target.shape === 'mask' ? undefined : markDrawn(target);
    if (method !== 'clone' && target.shape !== 'outline') {
      const near = entriesWithin(targetBounds(target, 0)).filter(({ state }) => state === 'open');
      const under = entriesUnder(target, near);
      if (under.length > 0 && (target.shape === 'disc' || method !== 'bridge')) {
        looking.choose(under.map(({ id }) => id));
        return mendEntries(under, method);
      }
    }
    const by = hand.choiceAt([start.x, start.y]);
    const share = hand.pressure === 'share' ? Math.max(0.05, pressed) * by.share : by.share;
    // The next stroke may begin before this one is laid down.
    if (by.source) hand.usedSource(by.source);
    const sheet = picture.picture;
    // The page answers the hand first: a mend takes longer than what is left of the frame.
    await new Promise((resolve) => setTimeout(resolve));
    if (picture.picture?.id === sheet?.id) await mendDrawn(target, method, { ...by, share });
  }

  /** What was drawn is an area, or a touch from which one grows. */
  const drawArea = (target: Target, isAway: boolean): Promise<void> =>
    fences.shape === 'touch' ? touched(target, isAway) : drawn(target, isAway);

  function drawPen(place: PointerPlace, event: PointerEvent): Gesture {
    const { scale } = view.value;
    // A touch is as wide on the screen wherever one looks.
    const radius = isTouch() ? TOUCH / scale : hand.current.radius;
    const start = onPicture(place);
    const straightFrom = event.shiftKey ? lastEnd : null;
    const stroke = startStroke(straightFrom ?? start, scale);
    if (straightFrom) stroke.add(start);
    const fetchAlong = isMending()
      ? fetchTilesAlong(start, radius, hand.choiceAt([start.x, start.y]).source)
      : null;
    const strongest = (points: readonly PenPoint[]): number =>
      Math.max(...points.map(({ pressure }) => pressure));
    const show = (): void => {
      pending.value = { kind: 'pen', points: straightFrom ? [straightFrom, start] : stroke.points(), radius };
    };
    show();
    return {
      move(places) {
        if (straightFrom) return;
        const along = places.map(onPicture);
        for (const one of along) stroke.add(one);
        fetchAlong?.(along);
        show();
      },
      end() {
        const drawn = straightFrom ? [straightFrom, start] : fewestPoints(stroke.points(), scale);
        lastEnd = drawn[drawn.length - 1];
        pending.value = null;
        const target = penTarget(drawn, radius, hand.pressure === 'size');
        void lay(hit(target, place), drawn, strongest(drawn), event.altKey);
      },
      cancel() {
        pending.value = null;
      },
    };
  }

  /** A touch on the mark of an open fault means that fault, wherever on the mark it is. */
  function hit(target: Target, { sx, sy }: PointerPlace): Target {
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
    void lay(target, [...drawn.points, drawn.points[0]], 1, isAway);
    return true;
  }

  function drawOutline(place: PointerPlace, isAway = false): Gesture {
    const { scale } = view.value;
    const before = pending.value?.kind === 'outline' ? pending.value.points : [];
    const start = onPicture(place);
    const stroke = startStroke(start, scale);
    let isFree = false;
    return {
      move(places) {
        isFree = true;
        for (const one of places) stroke.add(onPicture(one));
        pending.value = { kind: 'outline', points: [...before, ...stroke.points()] };
      },
      end() {
        if (isFree) {
          pending.value = { kind: 'outline', points: [...before, ...fewestPoints(stroke.points(), scale)] };
          if (before.length === 0) closeOutline(isAway);
          return;
        }
        const [first] = before;
        const [fx, fy] = first ? toScreen(view.value, table.value, first.x, first.y) : [NaN, NaN];
        if (before.length >= 3 && Math.hypot(place.sx - fx, place.sy - fy) < CLOSE_SLOP) closeOutline(isAway);
        else pending.value = { kind: 'outline', points: [...before, start] };
      },
      cancel() {
        pending.value = before.length > 0 ? { kind: 'outline', points: before } : null;
      },
    };
  }

  /** The outline that was laid last, while its method is in hand: dragging it shows it where the good texture is. */
  function lastOutline(start: PenPoint): Mend | null {
    const mend = looking.focusEntry?.mend;
    if (
      hand.tool === 'mark' ||
      isFenceTool(hand.tool) ||
      hand.shape !== 'outline' ||
      mend?.target.shape !== 'outline' ||
      pending.value !== null
    )
      return null;
    if (mend.locked || (mend.method !== 'heal' && mend.method !== 'clone')) return null;
    return entriesUnder(mend.target, [start]).length > 0 ? mend : null;
  }

  /** Frames marks and chooses them. */
  function frameMarks(place: PointerPlace): Gesture {
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
        const rect = { left, top, width: Math.abs(to.x - from.x), height: Math.abs(to.y - from.y) };
        const framed = entriesWithin(rect).map(({ id }) => id);
        looking.choose(event.ctrlKey || event.metaKey ? [...looking.chosen, ...framed] : framed);
      },
      cancel() {
        pending.value = null;
      },
    };
  }

  /** Draws a rectangle of a fence. */
  const drawRectangle = (place: PointerPlace, event: PointerEvent): Gesture =>
    dragRectangle(place, (target, from) => {
      if (target) void lay(target, [from], 1, event.altKey);
    });

  /** Draws a rectangle. @param done called with it; with nothing where it was no more than a click */
  function dragRectangle(
    place: PointerPlace,
    done: (target: OutlineTarget | null, from: PenPoint) => void,
  ): Gesture {
    const from = onPicture(place);
    let to = from;
    return {
      move(places) {
        to = onPicture(places[places.length - 1]);
        pending.value = { kind: 'frame', from, to };
      },
      end() {
        pending.value = null;
        const corners = [from, { ...to, y: from.y }, to, { ...from, y: to.y }];
        const target = outlineTarget(
          corners.map(({ x, y }) => ({ x: Math.round(x), y: Math.round(y), pressure: 1 })),
        );
        done(target, from);
      },
      cancel() {
        pending.value = null;
      },
    };
  }

  /** A press with a fence in hand. */
  function drawFence(place: PointerPlace, event: PointerEvent): Gesture {
    switch (fences.shape) {
      case 'rectangle':
        return drawRectangle(place, event);
      case 'outline':
        return drawOutline(place, event.altKey);
      case 'brush':
      case 'touch':
        return drawPen(place, event);
    }
  }

  function setSource(place: PointerPlace): Gesture {
    const { x, y } = onPicture(place);
    const done = (): void => undefined;
    hand.setSource([Math.round(x), Math.round(y)]);
    return { move: done, end: done, cancel: done };
  }

  function pickColour(place: PointerPlace): Gesture {
    const { x, y } = onPicture(place);
    const done = (): void => undefined;
    void treating.pickColour([x, y]);
    return { move: done, end: done, cancel: done };
  }

  /** What a press begins; null where moving on pans. */
  function begin(place: PointerPlace, event: PointerEvent): Gesture | null {
    if (event.pointerType === 'pen') hand.hasPen = true;
    if (event.pointerType === 'touch' && hand.hasPen) return null;
    if (pointing.isOn.value) return pointing.begin(place, pending);
    if (hand.tool === null) {
      if (event.shiftKey) return frameMarks(place);
      return event.ctrlKey || event.metaKey ? null : takeHold(place, event.altKey);
    }
    if (hand.tool === 'guide')
      return courseGesture(place, { pending, onPicture, done: closeCourse, scale: view.value.scale });
    // A rebuild takes from an area, not from a place.
    if (hand.isSettingSource && hand.tool === 'rebuild') return dragRectangle(place, leading.takeFrom);
    if (hand.isSettingSource && hand.tool === 'draw') return pickColour(place);
    if (hand.isSettingSource) {
      if (event.pointerType === 'touch') hand.isSettingSource = false;
      return setSource(place);
    }
    if (isFenceTool(hand.tool)) return drawFence(place, event);
    const start = onPicture(place);
    const outline = lastOutline(start);
    if (outline) return dragOutline(outline, start, event.altKey);
    return hand.shape === 'outline' ? drawOutline(place, event.altKey) : drawPen(place, event);
  }

  /** Forgets what is half drawn. @returns whether there was anything */
  function dropPending(): boolean {
    const had = pending.value !== null;
    pending.value = null;
    return had;
  }

  return { begin, closeOutline, dropPending, laying, pending };
}
