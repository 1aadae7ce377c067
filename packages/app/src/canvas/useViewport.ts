import { useDebounceFn } from '@vueuse/core';
import type { Ref } from 'vue';
import { ref, watch } from 'vue';
import type { Size, Viewport } from './viewport.ts';
import { clampViewport, fitScale, fitViewport, zoomAt } from './viewport.ts';

/** How long the table glides to a place, in milliseconds; not at all where the system asks for no motion. */
const GLIDE_MS = 130;
/** A place that is gone to is shown this many times as wide as it is. */
const ROOM_AROUND = 14;
const LARGEST_GLIDE_SCALE = 4;

/** Where so many pictures were left is remembered; the oldest is forgotten first. */
const MOST_PLACES = 60;
/** Writing waits until the table rests, in milliseconds. */
const KEEP_AFTER_MS = 400;
const KEPT_AS = 'fennip places';

function keptPlaces(): Map<string, Viewport> {
  try {
    return new Map(JSON.parse(localStorage.getItem(KEPT_AS) ?? '[]') as [string, Viewport][]);
  } catch {
    // What cannot be read was written by something else: each picture is shown whole.
    return new Map();
  }
}

/** Where each picture was left. */
const leftAt = keptPlaces();
const keepPlaces = useDebounceFn(
  () => localStorage.setItem(KEPT_AS, JSON.stringify([...leftAt].slice(-MOST_PLACES))),
  KEEP_AFTER_MS,
);

/** Where the picture lies on the table, kept for each picture. */
export function useViewport(id: Ref<string>, picture: Ref<Size>, table: Ref<Size>) {
  const view = ref<Viewport>({ x: 0, y: 0, scale: 1 });
  let isFitted = true;
  let glide = 0;

  function place(wanted: Viewport): void {
    isFitted = false;
    view.value = clampViewport(wanted, picture.value, table.value);
    // The one that was moved last stands last.
    leftAt.delete(id.value);
    leftAt.set(id.value, view.value);
    void keepPlaces();
  }

  /** Moves at once; a glide that is under way ends where it is. */
  function moveTo(wanted: Viewport): void {
    cancelAnimationFrame(glide);
    place(wanted);
  }

  function fit(): void {
    cancelAnimationFrame(glide);
    view.value = fitViewport(picture.value, table.value);
    leftAt.delete(id.value);
    void keepPlaces();
    isFitted = true;
  }

  /** Whole picture and 1:1 at a point of the screen, one after the other. */
  function swapFit(sx: number, sy: number): void {
    if (Math.abs(view.value.scale - 1) < 1e-3) fit();
    else moveTo(zoomAt(view.value, table.value, sx, sy, 1));
  }

  const zoomBy = (factor: number): void => moveTo({ ...view.value, scale: view.value.scale * factor });

  /** Glides to a place at a fitting scale, close enough to judge it. */
  function goTo(destination: { x: number; y: number; r: number }): void {
    cancelAnimationFrame(glide);
    const fitting =
      Math.min(table.value.width, table.value.height) / (2 * ROOM_AROUND * Math.max(2, destination.r));
    const scale = Math.max(
      fitScale(picture.value, table.value),
      Math.min(LARGEST_GLIDE_SCALE, Math.max(1, fitting)),
    );
    const from = view.value;
    const to = clampViewport({ x: destination.x, y: destination.y, scale }, picture.value, table.value);
    if (matchMedia('(prefers-reduced-motion: reduce)').matches) {
      moveTo(to);
      return;
    }
    const start = performance.now();
    const step = (now: number): void => {
      const t = Math.min(1, (now - start) / GLIDE_MS);
      const eased = t * (2 - t);
      const between = (a: number, b: number): number => a + (b - a) * eased;
      place({
        x: between(from.x, to.x),
        y: between(from.y, to.y),
        scale: from.scale * (to.scale / from.scale) ** eased,
      });
      if (t < 1) glide = requestAnimationFrame(step);
    };
    glide = requestAnimationFrame(step);
  }

  watch(
    // By its numbers: news of the picture bring the same sides again, and must not end a glide that is under way.
    [id, () => picture.value.width, () => picture.value.height],
    () => {
      const left = leftAt.get(id.value);
      if (left) moveTo(left);
      else fit();
    },
    { immediate: true },
  );
  watch(table, () => {
    if (isFitted) fit();
  });

  return { view, moveTo, fit, swapFit, zoomBy, goTo };
}
