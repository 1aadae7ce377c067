import type { Mend, OutlineTarget, Point, Rect, Shift, ShiftMend, Target } from '@fennip/core';
import { isSourced, isTreatment, rectsMeet, sourceOf, targetBounds } from '@fennip/core';
import type { Ref } from 'vue';
import { shallowRef } from 'vue';
import { useFences } from '../stores/fences.ts';
import { isFenceTool, isTreatTool, useHand } from '../stores/hand.ts';
import type { LedgerEntry } from '@fennip/core';
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
import { say } from '../words/say.ts';
import {
  movedMend,
  movedTarget,
  resizedTarget,
  withCornerPulled,
  withPoint,
  withSourceMoved,
} from './changeTarget.ts';
import { courseGesture } from './courseGesture.ts';
import { entriesUnder } from './entriesUnder.ts';
import { fetchTilesAlong } from './fetchTilesAlong.ts';
import type { Pending } from './pending.ts';
import type { PenPoint } from './penStroke.ts';
import { asPoint, fewestPoints, outlineTarget, penTarget, startStroke } from './penStroke.ts';

export interface GestureTable {
  readonly view: Ref<Sight>;
  readonly table: Ref<Size>;
  /** The entry whose mark lies under a point of the screen. */
  readonly entryAt: (sx: number, sy: number) => LedgerEntry | null;
  /** The entries whose marks meet a part of the picture. */
  readonly entriesWithin: (rect: Rect) => LedgerEntry[];
}

/** A handle is caught this far away, in screen pixels. */
const HANDLE_SLOP = 8;
/** A picture is moved against itself by at most so much across and down, in pixels. */
const MOST_SHIFT = 100;
/** Radius of a touch from which an area grows, in screen pixels. */
const TOUCH = 5;
/** A polygon closes when its first corner is clicked within this distance, in screen pixels. */
const CLOSE_SLOP = 9;

/** What presses on the table begin: drawing with an armed method, setting a source, moving a mend, framing marks. */
export function useGestures({ view, table, entryAt, entriesWithin }: GestureTable) {
  const picture = usePicture();
  const looking = useView();
  const hand = useHand();
  const { change, mendDrawn, mendEntries } = useMending();
  const fences = useFences();
  const { drawn, touched } = useFencing();
  const treating = useTreating();
  const treatments = useTreatments();
  const { markDrawn } = useLedgerWork();
  const leading = useLeading();
  const pointing = usePointing({ view, table });
  const isTouch = (): boolean => isFenceTool(hand.tool) && fences.shape === 'touch';
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
    if (
      target.shape !== 'disc' ||
      hand.tool === 'clone' ||
      hand.tool === 'mark' ||
      isFenceTool(hand.tool) ||
      isTreatTool(hand.tool) ||
      isPaintedOver(target)
    )
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

  /** Drags an outline onto good texture, or, with Alt, the good piece in it onto the fault. */
  function dragOutline(mend: Mend, start: PenPoint, isPiece: boolean): Gesture {
    const before = sourceOf(mend) ?? { dx: 0, dy: 0 };
    if (!isPiece)
      return dragMend(mend, say('step.outlineToSource'), (to) => {
        const { dx, dy } = shiftFrom(start, to);
        return isSourced(mend) ? { ...mend, source: { ...before, dx, dy } } : mend;
      });
    return dragMend(mend, say('step.pieceToFault'), (to) => {
      const shift = shiftFrom(start, to);
      const moved = movedMend(mend, shift);
      const source = { ...before, dx: -shift.dx, dy: -shift.dy };
      return isSourced(moved) ? { ...moved, source } : moved;
    });
  }

  const boxOnScreen = (
    bounds: Rect,
    shift: Shift,
  ): { left: number; top: number; right: number; bottom: number } => {
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
          return dragMend(mend, say('step.reshaped'), ({ x, y }) =>
            withShape(at, withPoint(shape, index, [x, y])),
          );
      }
      if (mend.method !== 'shift' && entriesUnder(shape, [start]).length > 0)
        return dragMend(mend, say('step.movedStroke'), (to) =>
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
    return dragMend(mend, say('step.shifted'), (to) => {
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

  /** What of the chosen mend a press takes hold of: its source, a corner, a point of its line, or all of it. */
  function takeHold(place: PointerPlace, isPulling: boolean): Gesture | null {
    const mend = looking.focusEntry?.mend;
    if (!mend || mend.locked || looking.chosen.size !== 1) return null;
    if (mend.method === 'shift') return takeHoldOfPaint(mend, place) ?? dragAgainstItself(mend, place);
    if (isTreatment(mend) || mend.paint) return takeHoldOfPaint(mend, place);
    const start = onPicture(place);
    const bounds = targetBounds(mend.target, mend.margin);
    const { sx, sy } = place;
    const isIn = ({ left, top, right, bottom }: ReturnType<typeof boxOnScreen>, slop: number): boolean =>
      sx >= left - slop && sx <= right + slop && sy >= top - slop && sy <= bottom + slop;
    const source = sourceOf(mend);
    if (source && isIn(boxOnScreen(bounds, source), 2))
      return dragMend(mend, say('step.movedSource'), (to) => withSourceMoved(mend, shiftFrom(start, to)));
    if (mend.target.shape === 'stroke' || mend.target.shape === 'outline') {
      const index = pointNear(mend.target.points, place);
      if (index >= 0)
        return dragMend(mend, say('step.reshaped'), ({ x, y }) => reshaped(mend, index, [x, y]));
    }
    const box = boxOnScreen(bounds, { dx: 0, dy: 0 });
    const [midX, midY] = [(box.left + box.right) / 2, (box.top + box.bottom) / 2];
    const isCorner =
      Math.abs(Math.abs(sx - midX) - (box.right - box.left) / 2) <= HANDLE_SLOP &&
      Math.abs(Math.abs(sy - midY) - (box.bottom - box.top) / 2) <= HANDLE_SLOP;
    if (isCorner && isPulling && source && mend.method !== 'recover') {
      const corner = sy < midY ? (sx < midX ? 0 : 1) : sx < midX ? 3 : 2;
      return dragMend(mend, say('step.pulled'), (to) =>
        withCornerPulled(mend, corner, exactShift(start, to)),
      );
    }
    if (isCorner && mend.method !== 'recover') {
      const away = (x: number, y: number): number => Math.max(1, Math.hypot(x - midX, y - midY));
      return dragMend(mend, say('step.resized'), (to) => {
        const [tx, ty] = toScreen(view.value, table.value, to.x, to.y);
        return { ...mend, target: resizedTarget(mend.target, away(tx, ty) / away(sx, sy)) };
      });
    }
    if (!isIn(box, 0)) return null;
    return dragMend(mend, say('step.moved'), (to) => movedMend(mend, shiftFrom(start, to)));
  }

  /** A point of a line or an outline elsewhere; what was fitted to a line does not follow its points. */
  const reshaped = (mend: Mend, index: number, place: Point): Mend =>
    mend.method === 'recover' ? mend : { ...mend, target: withPoint(mend.target, index, place) };

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
