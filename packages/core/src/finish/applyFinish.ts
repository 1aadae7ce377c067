import { fenceCoverage } from '../fence/allowance.ts';
import type { Fence } from '../fence/fence.ts';
import { VALUE, floatsAt, holding, kernels } from '../kernels/kernels.ts';
import type { PictureShape, Raster } from '../raster/raster.ts';
import { cloneRaster, colourChannels, fullScale, viewRaster } from '../raster/raster.ts';
import type { Window } from '../raster/window.ts';
import { pictureRect, windowRect } from '../raster/window.ts';
import type { Rect } from '../raster/rect.ts';
import { growRect, intersectRects, isEmpty } from '../raster/rect.ts';
import type { FinishStep, ValueStep } from './finishStep.ts';
import type { ValueCurve } from './finishDescription.ts';
import { describeValueStep, isFramingStep } from './finishSteps.ts';
import { TABLE_TOP, lookUpHeld, throughTable } from '../colour/lightTable.ts';
import type { HeldPlanes } from './heldPlanes.ts';
import { countOf, holdingRaster, narrowHeld, writeHeld } from './heldPlanes.ts';

/** Tables are worked out once for each setting; so many are kept. */
const MOST_TABLES = 24;
const tables = new Map<string, Float32Array>();
/** A value stands for the nearest step of a table. */
const HALF = 0.5;

/** A value of 0 to 1 as a table of {@link TABLE_TOP} steps has it. */
const entryOf = (bend: (value: number) => number, step: number): number =>
  Math.min(1, Math.max(0, bend(step / TABLE_TOP)));

/** What becomes of every value of 0 to 1, in steps of 1/65535. */
function keptTable(key: string, bend: (value: number) => number): Float32Array {
  const known = tables.get(key);
  if (known) return known;
  const table = new Float32Array(TABLE_TOP + 1);
  for (let i = 0; i <= TABLE_TOP; i++) table[i] = entryOf(bend, i);
  if (tables.size >= MOST_TABLES) tables.delete(tables.keys().next().value ?? key);
  tables.set(key, table);
  return table;
}

/** The part of a rectangle whose surroundings are in it as well; where the picture ends there are none. */
function knownWithin(rect: Rect, picture: PictureShape, around: number): Rect {
  const whole = pictureRect(picture);
  const beyond = growRect(intersectRects(rect, whole), -around);
  const left = rect.left <= whole.left ? rect.left : beyond.left;
  const top = rect.top <= whole.top ? rect.top : beyond.top;
  const ends = (from: number, length: number, most: number): boolean => from + length >= most;
  const right = ends(rect.left, rect.width, whole.width)
    ? rect.left + rect.width
    : beyond.left + beyond.width;
  const bottom = ends(rect.top, rect.height, whole.height)
    ? rect.top + rect.height
    : beyond.top + beyond.height;
  return { left, top, width: Math.max(0, right - left), height: Math.max(0, bottom - top) };
}

/** Changes values by a step, in place. @returns the part for which it is known */
function carryOut(step: ValueStep, held: HeldPlanes, wanted: Rect): HeldPlanes {
  const description = describeValueStep(step);
  if ('apply' in description) return description.apply(step, held, wanted);
  held.places.forEach((place, c) => lookUpHeld(place, countOf(held), tableOf(description.curve(step, c))));
  return held;
}

/** Brings values back towards what they were where a step is to count for less. @param share 0 to 1, of all; the coverage of each */
function mixBack(held: HeldPlanes, before: HeldPlanes, share: number, coverage: Float32Array | null): void {
  const count = countOf(held);
  held.places.forEach((place, c) => {
    const values = floatsAt(place, count);
    const was = floatsAt(before.places[c], count);
    for (let i = 0; i < count; i++)
      values[i] = was[i] + share * (coverage ? coverage[i] : 1) * (values[i] - was[i]);
  });
}

/** The same where a step counts for less than all, or not everywhere. */
function carryOutInPart(
  step: ValueStep,
  held: HeldPlanes,
  wanted: Rect,
  coverage: Float32Array | null,
): HeldPlanes {
  const bytes = VALUE * countOf(held);
  return holding(
    held.places.map(() => bytes),
    (...places) => {
      const copies = new Uint8Array(kernels().memory.buffer);
      places.forEach((place, c) => copies.copyWithin(place, held.places[c], held.places[c] + bytes));
      const changed = carryOut(step, held, wanted);
      mixBack(changed, narrowHeld({ ...held, places }, wanted), step.share, coverage);
      return changed;
    },
  );
}

/** How far a step looks around, in pixels; 0 where every pixel is for itself. */
function reachOf(step: ValueStep): number {
  const description = describeValueStep(step);
  return 'apply' in description ? description.reach(step) : 0;
}

/** True if a step changes anything at all; a blur of next to nothing on a small level does not. */
function isActive(step: FinishStep): step is ValueStep {
  if (!step.on || step.share === 0 || isFramingStep(step)) return false;
  const description = describeValueStep(step);
  return !('apply' in description && description.isIdle(step));
}

/** How far around a part of a picture must be known for the steps on it, in pixels. */
export const finishReach = (steps: readonly FinishStep[]): number =>
  steps.filter(isActive).reduce((sum, step) => sum + reachOf(step), 0);

/** What every value of 0 to 1 becomes under a curve. */
const tableOf = (curve: ValueCurve): Float32Array => keptTable(curve.key, curve.at);

/** A few values as the table would have them, without making all of it. */
function bent(values: Float32Array, bend: (value: number) => number): Float32Array {
  return values.map((value) => entryOf(bend, Math.floor(Math.fround(Math.fround(value * TABLE_TOP) + HALF))));
}

/** The curve of each step, where all change each value for itself and all over the picture; else null. */
function curvesOf(steps: readonly ValueStep[], channel: number): ValueCurve[] | null {
  const curves = steps.flatMap((step) => {
    const description = describeValueStep(step);
    return 'curve' in description && step.zone === undefined ? [description.curve(step, channel)] : [];
  });
  return curves.length === steps.length ? curves : null;
}

/** What every code of a channel becomes under steps that change each value for itself, all over the picture. */
const codeTables = new Map<string, Uint8Array | Uint16Array>();

/**
 * The codes of one channel under levels and curves alone, looked up: what the steps make of every code is worked out
 * once. None where a step does more, or less in some places than in others.
 */
function codesUnder(
  steps: readonly ValueStep[],
  channel: number,
  depth: Raster['depth'],
): Uint8Array | Uint16Array | null {
  const curves = curvesOf(steps, channel);
  if (!curves) return null;
  const key = `${depth} ${channel} ${JSON.stringify(steps)}`;
  const known = codeTables.get(key);
  if (known) return known;
  const top = fullScale(depth);
  let values: Float32Array = Float32Array.from({ length: top + 1 }, (_, code) => code / top);
  steps.forEach(({ share }, k) => {
    const curve = curves[k];
    const before = values;
    const next = depth === 8 ? bent(before, curve.at) : throughTable(before, tableOf(curve));
    values = share === 1 ? next : before.map((value, i) => value + share * (next[i] - value));
  });
  const codes = depth === 8 ? new Uint8Array(top + 1) : new Uint16Array(top + 1);
  for (let code = 0; code <= top; code++) codes[code] = Math.round(values[code] * top);
  if (codeTables.size >= MOST_TABLES) codeTables.delete(codeTables.keys().next().value ?? key);
  codeTables.set(key, codes);
  return codes;
}

/** A raster under steps that only need to be looked up; null where they need more. */
function lookedUp(raster: Raster, steps: readonly ValueStep[]): Raster | null {
  const channels = colourChannels(raster.planes.length);
  const tables = Array.from({ length: channels }, (_, c) => codesUnder(steps, c, raster.depth));
  if (tables.some((table) => table === null)) return null;
  const out = cloneRaster(raster);
  tables.forEach((table, c) => {
    const plane = out.planes[c];
    if (table) for (let i = 0; i < plane.length; i++) plane[i] = table[plane[i]];
  });
  return out;
}

/**
 * A part of a picture under the value steps of its finish, one after the other, in floating point; values are rounded
 * once, at the end. The same comes out whatever part is asked for. Alpha is kept. Steps of the framing are for
 * {@link import('./framing/applyFraming.ts').applyFraming}.
 *
 * @param window with {@link finishReach} around what is wanted of it, except where the picture ends
 * @param fences hold the zones that steps name
 * @returns a raster of its own, or the window's where nothing changes; around what is wanted it has the window's
 *   values
 * @throws RecipeError when a step names a zone that is not there
 */
export function applyFinish(window: Window, steps: readonly FinishStep[], fences: readonly Fence[]): Raster {
  const active = steps.filter(isActive);
  if (active.length === 0) return window.raster;
  const { raster } = window;
  const quick = lookedUp(raster, active);
  if (quick) return quick;
  const out = cloneRaster(raster);
  holdingRaster(raster, windowRect(window), window.picture, (held) => {
    let now = held;
    for (const step of active) {
      const zone = fences.find(({ id, on }) => on && id === step.zone);
      // A step whose zone is switched off is switched off with it.
      if (step.zone !== undefined && !zone) continue;
      // What a step looks at is not worked on further than to that step.
      const wanted = knownWithin(now.rect, now.picture, reachOf(step));
      if (isEmpty(wanted)) return;
      now =
        !zone && step.share === 1
          ? carryOut(step, now, wanted)
          : carryOutInPart(step, now, wanted, zone ? fenceCoverage(zone, wanted, now.picture) : null);
    }
    const { left, top } = now.rect;
    writeHeld(now, viewRaster(out, { ...now.rect, left: left - window.left, top: top - window.top }));
  });
  return out;
}
