import { useEventListener } from '@vueuse/core';
import type { Ref } from 'vue';
import { onBeforeUnmount, ref } from 'vue';
import type { Size, Viewport } from './viewport.ts';
import { zoomAt } from './viewport.ts';

/** Where the pointer is on the table, and how hard it presses: 0 to 1, always 1 for what knows no pressure. */
export interface PointerPlace {
  readonly sx: number;
  readonly sy: number;
  readonly pressure: number;
}

/** Something that is done between a press and a release. */
export interface Gesture {
  /** All places since the last call, the newest last. */
  move(places: readonly PointerPlace[], event: PointerEvent): void;
  end(event: PointerEvent): void;
  /** A second finger came down, or the system took the pointer away: nothing has happened. */
  cancel(): void;
}

export interface PointerActions {
  /** The picture's place on the table, and a way to change it. */
  readonly view: Ref<Viewport>;
  readonly table: Ref<Size>;
  readonly moveTo: (view: Viewport) => void;
  /** A press: what it begins, or null where moving on pans. */
  readonly begin: (place: PointerPlace, event: PointerEvent) => Gesture | null;
  /** A click or tap that was no drag and began nothing. */
  readonly click: (sx: number, sy: number, event: PointerEvent) => void;
  /** A long press of a finger, or the other button. */
  readonly menu: (sx: number, sy: number) => void;
  /** Where the table is shown twice, side by side: by how much a place on it lies to the right of where it is one. */
  readonly fold: (sx: number) => number;
  /** Shift and wheel: steps up are positive. */
  readonly resize: (steps: number) => void;
}

/** A press that moves less than this is a click, in screen pixels. */
const CLICK_SLOP = 4;
/** One notch of a usual wheel zooms by about a fifth. */
const WHEEL_ZOOM = 0.0018;
/** A finger that rests so long opens the menu, in milliseconds (common practice). */
const LONG_PRESS_MS = 550;

/** Pan, wheel, pinch and drawing over an element; tells where the pointer is. */
export function usePointer(element: Ref<HTMLElement | null>, actions: PointerActions) {
  const pointer = ref<readonly [number, number] | null>(null);
  const isPanning = ref(false);
  const isSpaceHeld = ref(false);
  const fingers = new Map<number, readonly [number, number]>();
  let pressedAt: readonly [number, number] | null = null;
  let hasMoved = false;
  let gesture: Gesture | null = null;
  let resting = 0;
  let fold = 0;

  function placeOf(event: PointerEvent | WheelEvent): readonly [number, number] {
    const box = element.value?.getBoundingClientRect();
    const sx = event.clientX - (box?.left ?? 0);
    // What began on one side goes on there.
    const folded = fingers.size > 0 ? fold : actions.fold(sx);
    return [sx - folded, event.clientY - (box?.top ?? 0)];
  }

  function pressed(event: PointerEvent): PointerPlace {
    const [sx, sy] = placeOf(event);
    return { sx, sy, pressure: event.pointerType === 'pen' ? event.pressure : 1 };
  }

  function panBy(dx: number, dy: number): void {
    const { x, y, scale } = actions.view.value;
    actions.moveTo({ x: x - dx / scale, y: y - dy / scale, scale });
  }

  /** Two fingers: what lies under their middle stays there, their distance zooms. */
  function pinch(id: number, place: readonly [number, number]): void {
    const [other] = [...fingers].filter(([finger]) => finger !== id).map(([, at]) => at);
    const before = fingers.get(id);
    if (!other || !before) return;
    const middle = (a: readonly [number, number]): [number, number] => [
      (a[0] + other[0]) / 2,
      (a[1] + other[1]) / 2,
    ];
    const apart = (a: readonly [number, number]): number =>
      Math.max(8, Math.hypot(a[0] - other[0], a[1] - other[1]));
    const [fromX, fromY] = middle(before);
    const [toX, toY] = middle(place);
    panBy(toX - fromX, toY - fromY);
    const scale = (actions.view.value.scale * apart(place)) / apart(before);
    actions.moveTo(zoomAt(actions.view.value, actions.table.value, toX, toY, scale));
  }

  function cancelGesture(): void {
    gesture?.cancel();
    gesture = null;
  }

  function startResting(event: PointerEvent): void {
    clearTimeout(resting);
    if (event.pointerType !== 'touch') return;
    const [sx, sy] = placeOf(event);
    resting = window.setTimeout(() => {
      if (hasMoved || fingers.size !== 1) return;
      cancelGesture();
      hasMoved = true;
      actions.menu(sx, sy);
    }, LONG_PRESS_MS);
  }

  function down(event: PointerEvent): void {
    if (event.button > 1) return;
    element.value?.setPointerCapture(event.pointerId);
    if (fingers.size === 0)
      fold = actions.fold(event.clientX - (element.value?.getBoundingClientRect().left ?? 0));
    const place = placeOf(event);
    fingers.set(event.pointerId, place);
    hasMoved = fingers.size > 1;
    pressedAt = place;
    if (event.pointerType !== 'touch') pointer.value = place;
    if (fingers.size > 1) cancelGesture();
    else if (event.button === 0 && !isSpaceHeld.value) gesture = actions.begin(pressed(event), event);
    startResting(event);
  }

  function drag(
    place: readonly [number, number],
    before: readonly [number, number],
    event: PointerEvent,
  ): void {
    if (gesture) {
      const all = event.getCoalescedEvents();
      gesture.move((all.length > 0 ? all : [event]).map(pressed), event);
      return;
    }
    const from = hasMoved || !pressedAt ? before : pressedAt;
    panBy(place[0] - from[0], place[1] - from[1]);
    isPanning.value = true;
  }

  function move(event: PointerEvent): void {
    const place = placeOf(event);
    if (event.pointerType !== 'touch') pointer.value = place;
    const before = fingers.get(event.pointerId);
    if (!before || !pressedAt) return;
    const away = Math.hypot(place[0] - pressedAt[0], place[1] - pressedAt[1]);
    if (!hasMoved && fingers.size === 1 && away < CLICK_SLOP) return;
    clearTimeout(resting);
    if (fingers.size === 2) pinch(event.pointerId, place);
    else if (fingers.size === 1) drag(place, before, event);
    hasMoved = true;
    fingers.set(event.pointerId, place);
  }

  function up(event: PointerEvent): void {
    clearTimeout(resting);
    if (!fingers.delete(event.pointerId)) return;
    if (gesture) {
      if (event.type === 'pointerup') gesture.end(event);
      else gesture.cancel();
      gesture = null;
    } else if (!hasMoved && event.type === 'pointerup' && event.button === 0)
      actions.click(...placeOf(event), event);
    if (fingers.size > 0) return;
    pressedAt = null;
    isPanning.value = false;
  }

  function wheel(event: WheelEvent): void {
    event.preventDefault();
    const turned = event.deltaY !== 0 ? event.deltaY : event.deltaX;
    const pixels = event.deltaMode === 1 ? turned * 33 : turned;
    if (event.shiftKey) {
      actions.resize(-Math.sign(pixels));
      return;
    }
    const scale = actions.view.value.scale * Math.exp(-pixels * WHEEL_ZOOM);
    actions.moveTo(zoomAt(actions.view.value, actions.table.value, ...placeOf(event), scale));
  }

  useEventListener(element, 'pointerdown', down);
  useEventListener(element, 'pointermove', move);
  useEventListener(element, 'pointerup', up);
  useEventListener(element, 'pointercancel', up);
  useEventListener(element, 'pointerleave', () => {
    pointer.value = null;
  });
  useEventListener(element, 'contextmenu', (event: MouseEvent) => {
    event.preventDefault();
    // A long press of a finger has opened the menu already.
    if (fingers.size > 0) return;
    const box = element.value?.getBoundingClientRect();
    actions.menu(event.clientX - (box?.left ?? 0), event.clientY - (box?.top ?? 0));
  });
  useEventListener(element, 'wheel', wheel, { passive: false });
  onBeforeUnmount(() => {
    clearTimeout(resting);
    fingers.clear();
  });

  return { pointer, isPanning, isSpaceHeld };
}
