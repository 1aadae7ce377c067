import type { Ref } from 'vue';
import { onBeforeUnmount, onMounted, ref } from 'vue';
import type { Size, Viewport } from './viewport.ts';
import { zoomAt } from './viewport.ts';

export interface PointerActions {
  /** The picture's place on the table, and a way to change it. */
  readonly view: Ref<Viewport>;
  readonly table: Ref<Size>;
  readonly moveTo: (view: Viewport) => void;
  /** A click or tap that was no drag. */
  readonly click: (sx: number, sy: number, event: PointerEvent) => void;
  /** Shift and wheel: steps up are positive. */
  readonly resize: (steps: number) => void;
}

/** A press that moves less than this is a click, in screen pixels. */
const CLICK_SLOP = 4;
/** One notch of a usual wheel zooms by about a fifth. */
const WHEEL_ZOOM = 0.0018;

/** Pan, wheel and pinch over an element; tells where the pointer is. */
export function usePointer(element: Ref<HTMLElement | null>, actions: PointerActions) {
  const pointer = ref<readonly [number, number] | null>(null);
  const isPanning = ref(false);
  const fingers = new Map<number, readonly [number, number]>();
  let pressedAt: readonly [number, number] | null = null;
  let hasMoved = false;

  function placeOf(event: PointerEvent | WheelEvent): readonly [number, number] {
    const box = element.value?.getBoundingClientRect();
    return [event.clientX - (box?.left ?? 0), event.clientY - (box?.top ?? 0)];
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

  function down(event: PointerEvent): void {
    if (event.button > 1) return;
    element.value?.setPointerCapture(event.pointerId);
    const place = placeOf(event);
    fingers.set(event.pointerId, place);
    hasMoved = fingers.size > 1;
    pressedAt = place;
  }

  function move(event: PointerEvent): void {
    const place = placeOf(event);
    if (event.pointerType !== 'touch') pointer.value = place;
    const before = fingers.get(event.pointerId);
    if (!before || !pressedAt) return;
    if (fingers.size === 2) pinch(event.pointerId, place);
    else {
      if (!hasMoved && Math.hypot(place[0] - pressedAt[0], place[1] - pressedAt[1]) < CLICK_SLOP) return;
      panBy(
        place[0] - (hasMoved ? before[0] : pressedAt[0]),
        place[1] - (hasMoved ? before[1] : pressedAt[1]),
      );
      isPanning.value = true;
    }
    hasMoved = true;
    fingers.set(event.pointerId, place);
  }

  function up(event: PointerEvent): void {
    if (!fingers.delete(event.pointerId)) return;
    if (!hasMoved && event.type === 'pointerup' && event.button === 0)
      actions.click(...placeOf(event), event);
    if (fingers.size === 0) {
      pressedAt = null;
      isPanning.value = false;
    }
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

  const leave = (): void => {
    pointer.value = null;
  };

  onMounted(() => {
    const target = element.value;
    if (!target) return;
    target.addEventListener('pointerdown', down);
    target.addEventListener('pointermove', move);
    target.addEventListener('pointerup', up);
    target.addEventListener('pointercancel', up);
    target.addEventListener('pointerleave', leave);
    target.addEventListener('wheel', wheel, { passive: false });
  });
  onBeforeUnmount(() => fingers.clear());

  return { pointer, isPanning };
}
