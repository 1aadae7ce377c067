import { LUMA } from '../colour/luma.ts';
import { SRGB_TRANSFER, sharedTransferTable } from '../colour/transfer.ts';
import { fenceCoverage } from '../fence/allowance.ts';
import type { Fence } from '../fence/fence.ts';
import { colourFloats } from '../mend/patch.ts';
import type { Raster } from '../raster/raster.ts';
import { cloneRaster, fullScale } from '../raster/raster.ts';
import type { Window } from '../raster/window.ts';
import { windowRect } from '../raster/window.ts';
import type { ColourStep, FinishStep } from './finishStep.ts';
import { monotoneCurve } from './monotoneCurve.ts';
import { tonedValue } from './tone.ts';

/** Steps of the tables that values run through: one for every code of 16 bit. */
const TABLE_TOP = 65535;
/** Tables are worked out once for each setting; so many are kept. */
const MOST_TABLES = 24;
const tables = new Map<string, Float32Array>();

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

function throughTable(plane: Float32Array, table: Float32Array): Float32Array {
  const out = new Float32Array(plane.length);
  for (let i = 0; i < out.length; i++) out[i] = table[Math.round(plane[i] * TABLE_TOP)];
  return out;
}

/**
 * White balance as gains, then saturation about the luminance of each pixel, both in linear light. (The saturation
 * matrix of W3C Filter Effects 1, 9.2, with the weights of Rec. 709.) The gains leave the luminance of grey as it is.
 */
function balanced(
  { temperature, tint, saturation }: ColourStep,
  planes: readonly Float32Array[],
  transfer: Window['picture']['transfer'],
): Float32Array[] {
  // A grey picture has no colour to change.
  if (planes.length < 3) return [...planes];
  const codes = planes.map((_, c) => sharedTransferTable(transfer?.[c] ?? SRGB_TRANSFER, TABLE_TOP));
  const raw = [2 ** (temperature / 2), 2 ** -tint, 2 ** (-temperature / 2)];
  const luminance = raw.reduce((sum, gain, c) => sum + LUMA[c] * gain, 0);
  const gains = raw.map((gain) => gain / luminance);
  const out = planes.map((plane) => new Float32Array(plane.length));
  for (let i = 0; i < out[0].length; i++) {
    const red = gains[0] * codes[0].light[Math.round(planes[0][i] * TABLE_TOP)];
    const green = gains[1] * codes[1].light[Math.round(planes[1][i] * TABLE_TOP)];
    const blue = gains[2] * codes[2].light[Math.round(planes[2][i] * TABLE_TOP)];
    const grey = LUMA[0] * red + LUMA[1] * green + LUMA[2] * blue;
    out[0][i] = codes[0].encode(grey + saturation * (red - grey)) / TABLE_TOP;
    out[1][i] = codes[1].encode(grey + saturation * (green - grey)) / TABLE_TOP;
    out[2][i] = codes[2].encode(grey + saturation * (blue - grey)) / TABLE_TOP;
  }
  return out;
}

function carriedOut(step: FinishStep, planes: readonly Float32Array[], window: Window): Float32Array[] {
  switch (step.method) {
    case 'levels':
      return planes.map((plane, c) => {
        const tone = step.tones[Math.min(c, step.tones.length - 1)];
        return throughTable(
          plane,
          tableOf(JSON.stringify(tone), (value) => tonedValue(value, tone)),
        );
      });
    case 'curve': {
      const table = tableOf(JSON.stringify(step.points), monotoneCurve(step.points));
      return planes.map((plane) => throughTable(plane, table));
    }
    case 'colour':
      return balanced(step, planes, window.picture.transfer);
  }
}

/**
 * A part of a picture under the steps of its finish, one after the other, in floating point; values are rounded once,
 * at the end. Every pixel for itself: the same comes out whatever part is asked for. Alpha is kept.
 *
 * @param fences hold the zones that steps name
 * @returns a raster of its own, or the window's where nothing changes
 */
export function applyFinish(window: Window, steps: readonly FinishStep[], fences: readonly Fence[]): Raster {
  const active = steps.filter(({ on, share }) => on && share > 0);
  if (active.length === 0) return window.raster;
  const { raster } = window;
  const top = fullScale(raster.depth);
  let planes = colourFloats(raster);
  for (const plane of planes) for (let i = 0; i < plane.length; i++) plane[i] /= top;
  for (const step of active) {
    const next = carriedOut(step, planes, window);
    const zone = fences.find(({ id, on }) => on && id === step.zone);
    // A step whose zone is switched off is switched off with it.
    if (step.zone !== undefined && !zone) continue;
    const coverage = zone ? fenceCoverage(zone, windowRect(window), window.picture) : null;
    planes = planes.map((plane, c) => {
      if (!coverage && step.share === 1) return next[c];
      for (let i = 0; i < plane.length; i++)
        plane[i] += step.share * (coverage ? coverage[i] : 1) * (next[c][i] - plane[i]);
      return plane;
    });
  }
  const out = cloneRaster(raster);
  planes.forEach((plane, c) => {
    for (let i = 0; i < plane.length; i++) out.planes[c][i] = Math.round(plane[i] * top);
  });
  return out;
}
