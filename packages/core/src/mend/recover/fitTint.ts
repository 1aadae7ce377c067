import { columnOf } from '../../measure/columnOf.ts';
import { intersectRects, isEmpty } from '../../raster/rect.ts';
import { pictureRect } from '../../raster/window.ts';
import type { Pixels } from '../../raster/pixels.ts';
import type { Reach } from '../../target/targetField.ts';
import { targetField } from '../../target/targetField.ts';
import { logLight } from './logLight.ts';
import { membrane } from '../heal/membrane.ts';
import type { Tint } from './tint.ts';

/** Control points across the shorter side of a stain: enough for its rim, too few for the subject's structure. */
const POINTS_ACROSS = 10;
const LEAST_STEP = 4;
/** Width of the surroundings that tell what the tone under the stain would be, in pixels. */
const BAND = 14;
/** Densities are fitted to this precision. */
const PRECISE = 1e4;

/** Middle of the samples in a square around a control point. */
function medianAround(
  values: Float32Array,
  use: Uint8Array,
  width: number,
  x: number,
  y: number,
  reach: number,
): { value: number; count: number } {
  const height = values.length / width;
  const found: number[] = [];
  for (let py = Math.max(0, Math.ceil(y - reach)); py <= Math.min(height - 1, y + reach); py++)
    for (let px = Math.max(0, Math.ceil(x - reach)); px <= Math.min(width - 1, x + reach); px++)
      if (use[py * width + px]) found.push(values[py * width + px]);
  found.sort((a, b) => a - b);
  return { value: found[found.length >> 1] ?? 0, count: found.length };
}

/**
 * Estimates a stain's tint inside a target: in log light the smooth tone of the inside, less the tone that the
 * surroundings carried across would give. Medians over squares leave the subject's own structure out of it; what is
 * finer than the grid stays in the picture.
 *
 * @returns null where the target lies outside the picture
 */
export function fitTint(reach: Reach, pixels: Pixels): Tint | null {
  const field = targetField(reach, pixels.shape, BAND);
  const rect = intersectRects(field.rect, pictureRect(pixels.shape));
  if (isEmpty(rect)) return null;
  const { width, height } = rect;
  const inside = columnOf(Uint8Array, field.coverage, (amount) => (amount > 0.5 ? 1 : 0));
  const outside = columnOf(Uint8Array, field.coverage, (amount) => (amount === 0 ? 1 : 0));
  const step = Math.max(LEAST_STEP, Math.round(Math.min(width, height) / POINTS_ACROSS));
  const columns = Math.ceil(width / step) + 1;
  const rows = Math.ceil(height / step) + 1;
  const density = logLight(pixels, rect).map((log) =>
    densityOf(log, inside, outside, width, { step, columns, rows }),
  );
  return { kind: 'tint', left: rect.left, top: rect.top, step, columns, rows, density };
}

function densityOf(
  log: Float32Array,
  inside: Uint8Array,
  outside: Uint8Array,
  width: number,
  { step, columns, rows }: Pick<Tint, 'step' | 'columns' | 'rows'>,
): number[] {
  const size = columns * rows;
  const [around, within] = [new Float32Array(size), new Float32Array(size)];
  const [aroundKnown, withinKnown] = [new Float32Array(size), new Float32Array(size)];
  for (let row = 0, i = 0; row < rows; row++) {
    for (let column = 0; column < columns; column++, i++) {
      const [x, y] = [column * step - 0.5, row * step - 0.5];
      const outer = medianAround(log, outside, width, x, y, step);
      const inner = medianAround(log, inside, width, x, y, step * 0.75);
      if (outer.count >= step) [around[i], aroundKnown[i]] = [outer.value, 1];
      if (inner.count >= step) [within[i], withinKnown[i]] = [inner.value, 1];
    }
  }
  const [under] = membrane([around], aroundKnown, columns, rows);
  const difference = within.map((value, i) => under[i] - value);
  // A point without stained samples of its own takes what its neighbours say, so that the rim is not halved.
  const [smooth] = membrane([difference], withinKnown, columns, rows);
  return Array.from(smooth, (value) => Math.round(value * PRECISE) / PRECISE);
}
