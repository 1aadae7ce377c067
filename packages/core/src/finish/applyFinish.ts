import { fenceCoverage } from '../fence/allowance.ts';
import type { Fence } from '../fence/fence.ts';
import { blurReach, gaussianBlur } from '../filter/gaussian.ts';
import type { Raster } from '../raster/raster.ts';
import { cloneRaster, colourChannels, fullScale } from '../raster/raster.ts';
import { codesOf, valuesOf } from '../raster/values.ts';
import type { Window } from '../raster/window.ts';
import { pictureRect, windowRect } from '../raster/window.ts';
import type { Rect } from '../raster/rect.ts';
import { growRect, intersectRects } from '../raster/rect.ts';
import { balanced } from './balanced.ts';
import type { FinishStep, SoftenStep, ValueStep } from './finishStep.ts';
import { isFramingStep } from './finishStep.ts';
import { TABLE_TOP, fromLight, lightTablesOf, throughTable, toLight } from '../colour/lightTable.ts';
import { contrastReach, localContrast } from './localContrast.ts';
import { monotoneCurve } from './monotoneCurve.ts';
import { sharpenReach, sharpened } from './sharpened.ts';
import { tonedValue } from './tone.ts';

/** Tables are worked out once for each setting; so many are kept. */
const MOST_TABLES = 24;
const tables = new Map<string, Float32Array>();
/** A blur of less than this is none. */
const LEAST_RADIUS = 0.12;

/** What becomes of every value of 0 to 1, in steps of 1/65535. */
function tableOf(key: string, bend: (value: number) => number): Float32Array {
  const known = tables.get(key);
  if (known) return known;
  const table = Float32Array.from({ length: TABLE_TOP + 1 }, (_, i) =>
    Math.min(1, Math.max(0, bend(i / TABLE_TOP))),
  );
  if (tables.size >= MOST_TABLES) tables.delete(tables.keys().next().value ?? key);
  tables.set(key, table);
  return table;
}

/** A Gaussian blur of each channel's light: what a lens would do. */
function softened({ radius }: SoftenStep, planes: readonly Float32Array[], window: Window): Float32Array[] {
  const { width, height } = window.raster;
  const codes = lightTablesOf(planes.length, window.picture.transfer);
  return planes.map((plane, c) =>
    fromLight(gaussianBlur({ width, height, data: toLight(plane, codes[c]) }, radius).data, codes[c]),
  );
}

/** The part of a window whose surroundings are in it as well; where the picture ends there are none. */
function knownWithin(window: Window, around: number): Rect {
  const rect = windowRect(window);
  const whole = pictureRect(window.picture);
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

function carriedOut(step: ValueStep, planes: readonly Float32Array[], window: Window): Float32Array[] {
  const { transfer } = window.picture;
  switch (step.method) {
    case 'levels':
    case 'curve':
      return planes.map((plane, c) => valuesUnder(step, plane, c));
    case 'colour':
      return balanced(step, planes, transfer);
    case 'contrast':
      return localContrast(step, planes, windowRect(window), knownWithin(window, contrastReach(step)));
    case 'sharpen':
      return sharpened(step, planes, window.raster, transfer);
    case 'soften':
      return softened(step, planes, window);
  }
}

/** How far a step looks around, in pixels; 0 where every pixel is for itself. */
function reachOf(step: ValueStep): number {
  switch (step.method) {
    case 'levels':
    case 'curve':
    case 'colour':
      return 0;
    case 'contrast':
      return contrastReach(step);
    case 'sharpen':
      return sharpenReach(step);
    case 'soften':
      return blurReach(step.radius);
  }
}

/** Whether a step changes anything at all; a blur of next to nothing on a small level does not. */
function isActive(step: FinishStep): step is ValueStep {
  if (!step.on || step.share === 0 || isFramingStep(step)) return false;
  if (step.method === 'sharpen' || step.method === 'soften') return step.radius >= LEAST_RADIUS;
  return step.method !== 'contrast' || (step.amount !== 0 && step.size >= 1);
}

/** How far around a part of a picture must be known for the steps on it, in pixels. */
export const finishReach = (steps: readonly FinishStep[]): number =>
  steps.filter(isActive).reduce((sum, step) => sum + reachOf(step), 0);

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
  if (!steps.every(({ method, zone }) => (method === 'levels' || method === 'curve') && zone === undefined))
    return null;
  const key = `${depth} ${channel} ${JSON.stringify(steps)}`;
  const known = codeTables.get(key);
  if (known) return known;
  const top = fullScale(depth);
  let values: Float32Array = Float32Array.from({ length: top + 1 }, (_, code) => code / top);
  for (const step of steps) {
    const next = valuesUnder(step, values, channel);
    values = step.share === 1 ? next : values.map((value, i) => value + step.share * (next[i] - value));
  }
  const codes = depth === 8 ? new Uint8Array(top + 1) : new Uint16Array(top + 1);
  for (let code = 0; code <= top; code++) codes[code] = Math.round(values[code] * top);
  if (codeTables.size >= MOST_TABLES) codeTables.delete(codeTables.keys().next().value ?? key);
  codeTables.set(key, codes);
  return codes;
}

/** The values of one channel under a step that changes each for itself. */
function valuesUnder(step: ValueStep, plane: Float32Array, channel: number): Float32Array {
  if (step.method === 'curve')
    return throughTable(plane, tableOf(JSON.stringify(step.points), monotoneCurve(step.points)));
  if (step.method !== 'levels') return plane;
  const tone = step.tones[Math.min(channel, step.tones.length - 1)];
  return throughTable(
    plane,
    tableOf(JSON.stringify(tone), (value) => tonedValue(value, tone)),
  );
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
 * @returns a raster of its own, or the window's where nothing changes
 */
export function applyFinish(window: Window, steps: readonly FinishStep[], fences: readonly Fence[]): Raster {
  const active = steps.filter(isActive);
  if (active.length === 0) return window.raster;
  const { raster } = window;
  const quick = lookedUp(raster, active);
  if (quick) return quick;
  let planes = valuesOf(raster);
  for (const step of active) {
    const zone = fences.find(({ id, on }) => on && id === step.zone);
    // A step whose zone is switched off is switched off with it.
    if (step.zone !== undefined && !zone) continue;
    const next = carriedOut(step, planes, window);
    const coverage = zone ? fenceCoverage(zone, windowRect(window), window.picture) : null;
    planes = planes.map((plane, c) => {
      if (!coverage && step.share === 1) return next[c];
      for (let i = 0; i < plane.length; i++)
        plane[i] += step.share * (coverage ? coverage[i] : 1) * (next[c][i] - plane[i]);
      return plane;
    });
  }
  const out = cloneRaster(raster);
  planes.forEach((plane, c) => out.planes[c].set(codesOf(plane, raster.depth)));
  return out;
}
