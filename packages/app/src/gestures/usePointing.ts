import type { CurveStep, FinishStep } from '@fennip/core/finish';
import type { Point } from '@fennip/core/target';
import { framingOf, lensFromLines, monotoneCurve } from '@fennip/core/finish';
import { LUMA } from '@fennip/core/light';
import type { Ref } from 'vue';
import { computed } from 'vue';
import { engine } from '../engine/page/workers.ts';
import type { Pending } from '../canvas/pending.ts';
import type { PenPoint } from '../canvas/penPoint.ts';
import { courseGesture } from './courseGesture.ts';
import { useFinish } from '../stores/finish.ts';
import { usePicture } from '../stores/picture.ts';
import type { Gesture, PointerPlace } from '../canvas/usePointer.ts';
import type { Sight, Size } from '../canvas/viewport.ts';
import { toPicture } from '../canvas/viewport.ts';
import { say } from '../i18n/say.ts';
import { pickedTone } from './pickedTone.ts';
import { QUARTER, quartersOf } from '../framing/quarters.ts';

/** A tone is drawn over the whole range by so many screen pixels. */
const WHOLE_RANGE = 400;
/** Points of a curve nearer than this to a tone that is held give way to it. */
const NEAR = 0.05;
/** A line shorter than this, in screen pixels, tells no direction. */
const SHORTEST = 12;

export interface PointingTable {
  readonly view: Ref<Sight>;
  readonly table: Ref<Size>;
}

/** Steps of the finish that are set by pointing at the picture. */
export function usePointing({ view, table }: PointingTable) {
  const finish = useFinish();
  const picture = usePicture();
  const isOn = computed(() => finish.isOpen && finish.pointedAt !== null && finish.chosen !== null);
  /** Lines that are straight in the world, as they were drawn for the lens that is set. */
  let lines: Point[][] = [];
  let linesFor = '';

  const placeOf = ({ sx, sy }: PointerPlace): Point => {
    const [x, y] = toPicture(view.value, table.value, sx, sy);
    return [x, y];
  };
  const penPoint = (place: PointerPlace): PenPoint => {
    const [x, y] = placeOf(place);
    return { x, y, pressure: place.pressure };
  };
  const stepsBefore = ({ id }: FinishStep): FinishStep[] =>
    finish.steps.slice(
      0,
      finish.steps.findIndex((step) => step.id === id),
    );

  /** Levels by a place that is to be black, neutral or white. */
  async function pick(place: Point, as: 'black' | 'grey' | 'white'): Promise<void> {
    const step = finish.chosen;
    if (step?.method !== 'levels') return;
    const picked = await engine().toneAt(place, stepsBefore(step));
    if (picked.length > 0 && finish.chosenId === step.id) finish.change(pickedTone(step, as, picked));
  }

  function holdTone(place: PointerPlace): Gesture {
    const step = finish.chosen;
    let bent: CurveStep | null = null;
    let up = 0;
    let held: { readonly step: CurveStep; readonly from: number } | null = null;
    const show = (): void => {
      if (!held) return;
      const { from } = held;
      const others = held.step.points.filter(
        ([x], k, all) => k === 0 || k === all.length - 1 || Math.abs(x - from) > NEAR,
      );
      const y = Math.min(1, Math.max(0, monotoneCurve(held.step.points)(from) + up / WHOLE_RANGE));
      // At an end the end itself is moved.
      const near = others.findIndex(([x]) => Math.abs(x - from) <= NEAR / 2);
      const points: Point[] =
        near >= 0
          ? others.map(([x, was], k) => [x, k === near ? y : was])
          : [...others, [from, y] as Point].sort((a, b) => a[0] - b[0]);
      bent = { ...held.step, points };
      void finish.draft(bent);
    };
    if (step?.method === 'curve')
      void engine()
        .toneAt(placeOf(place), stepsBefore(step))
        .then((tone) => {
          if (tone.length === 0) return;
          const from = tone.length < 3 ? tone[0] : LUMA.reduce((sum, weight, c) => sum + weight * tone[c], 0);
          held = { step, from: Math.round(1000 * from) / 1000 };
          if (up !== 0) show();
        });
    return {
      move(places) {
        up = place.sy - places[places.length - 1].sy;
        show();
      },
      end() {
        if (bent) finish.change(bent);
      },
      cancel() {
        if (held) void finish.draft(held.step);
      },
    };
  }

  /** The picture is turned so that a line lies level, or plumb where that is nearer. */
  function level(from: Point, to: Point): void {
    const step = finish.chosen;
    if (step?.method !== 'straighten') return;
    const bent = framingOf(finish.sides, [
      ...finish.steps.filter(({ method }) => method === 'lens'),
      { id: 'all', on: true, share: 1, method: 'crop', left: 0, top: 0, ...finish.sides },
    ]);
    const [[x1, y1], [x2, y2]] = bent ? [bent.toFramed(...from), bent.toFramed(...to)] : [from, to];
    const direction = Math.atan2(y2 - y1, x2 - x1);
    const slope = direction - Math.round(direction / QUARTER) * QUARTER;
    finish.change({ ...step, angle: quartersOf(step.angle) * QUARTER - slope });
  }

  function drawHorizon(place: PointerPlace, pending: Ref<Pending | null>): Gesture {
    const from = penPoint(place);
    let last = place;
    return {
      move(places) {
        last = places[places.length - 1];
        pending.value = { kind: 'course', points: [from, penPoint(last)] };
      },
      end() {
        pending.value = null;
        if (Math.hypot(last.sx - place.sx, last.sy - place.sy) < SHORTEST) return;
        level(placeOf(place), placeOf(last));
        finish.pointedAt = null;
      },
      cancel() {
        pending.value = null;
      },
    };
  }

  /** Takes a line that is straight in the world; with each the lens is fitted anew. */
  function takeStraight(pending: Ref<Pending | null>): void {
    const step = finish.chosen;
    const drawn = pending.value?.kind === 'course' ? pending.value.points : [];
    pending.value = null;
    if (step?.method !== 'lens') return;
    if (linesFor !== step.id) [lines, linesFor] = [[], step.id];
    lines = [...lines, drawn.map(({ x, y }): Point => [x, y])];
    const k1 = lensFromLines(lines, finish.sides);
    if (k1 === null) picture.notice = say('notice.fewPoints');
    else finish.change({ ...step, k1: Math.round(1e4 * k1) / 1e4, k2: 0 });
  }

  /** What a press begins while a step is set by pointing. */
  function begin(place: PointerPlace, pending: Ref<Pending | null>): Gesture {
    const done = (): void => undefined;
    switch (finish.pointedAt) {
      case 'tone':
        return holdTone(place);
      case 'horizon':
        return drawHorizon(place, pending);
      case 'straight':
        return courseGesture(place, {
          pending,
          onPicture: penPoint,
          done: () => takeStraight(pending),
          scale: view.value.scale,
        });
      case 'black':
      case 'grey':
      case 'white':
        void pick(placeOf(place), finish.pointedAt);
        finish.pointedAt = null;
        return { move: done, end: done, cancel: done };
      case null:
        return { move: done, end: done, cancel: done };
    }
  }

  return { isOn, begin };
}
