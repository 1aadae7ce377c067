import { boxMean } from '../filter/boxMean.ts';
import { guidedFilter } from '../filter/guidedFilter.ts';
import type { FloatPlane } from '../raster/float.ts';
import { createFloatPlane, lumaPlane } from '../raster/float.ts';
import type { Window } from '../raster/window.ts';
import { windowRect } from '../raster/window.ts';
import type { SpanRows } from '../target/spanRows.ts';
import { maskOfSpans, spansOfPixels } from '../target/spanRows.ts';
import { maskPixels } from '../target/targetDistance.ts';
import { combineAreas } from './combineAreas.ts';

/** Steps of encoded luma that are smaller are no edge to follow. */
const STEP = 0.02;

/** The squares reach twice as far as the border may move, or most of them would lie on one side of the edge. */
const windowOf = (reach: number): number => Math.max(2, Math.round(2 * reach));

/** How far around a part of the picture its border is looked for, for borders that may move so far, in pixels. */
export const followReach = (reach: number): number => 2 * windowOf(reach);

/** Where there is an edge to follow: more than grain within the square. */
function hasEdge(luma: FloatPlane, radius: number): Uint8Array {
  const mean = boxMean(luma, radius).data;
  const squares = boxMean({ ...luma, data: luma.data.map((value) => value * value) }, radius).data;
  const has = new Uint8Array(mean.length);
  for (let i = 0; i < has.length; i++) if (squares[i] - mean[i] * mean[i] > STEP * STEP) has[i] = 1;
  return has;
}

/** The border as the picture draws it: more than half of the guided filter's answer is inside. */
function guided(inside: Uint8Array, luma: FloatPlane, reach: number): Uint8Array {
  const radius = windowOf(reach);
  const mask = createFloatPlane(luma.width, luma.height);
  mask.data.set(inside);
  const share = guidedFilter(mask, luma, radius, STEP * STEP).data;
  const edges = hasEdge(luma, radius);
  return inside.map((isIn, i) => (edges[i] ? (share[i] > 0.5 ? 1 : 0) : isIn));
}

/**
 * Moves the border of an area, where an edge of the picture lies within reach of it, onto that edge.
 * (He, Sun, Tang 2010, section 4, on refining a mask.)
 *
 * @param reach how far the border may move, in pixels
 * @param parts parts of the picture that hold the border, each with {@link followReach} around it, and the part proper
 */
export function followEdges(
  area: SpanRows,
  reach: number,
  parts: Iterable<{ readonly window: Window; readonly part: ReturnType<typeof windowRect> }>,
): SpanRows {
  const mask = maskOfSpans(area);
  if (!mask) return area;
  let moved = area;
  for (const { window, part } of parts) {
    const rect = windowRect(window);
    const inside = maskPixels(mask, rect);
    if (!inside.includes(1) || !inside.includes(0)) continue;
    const after = guided(inside, lumaPlane(window.raster), reach);
    const own = new Uint8Array(part.width * part.height);
    for (let y = 0; y < part.height; y++) {
      const from = (part.top + y - rect.top) * rect.width + part.left - rect.left;
      own.set(after.subarray(from, from + part.width), y * part.width);
    }
    const whole = spansOfPixels(new Uint8Array(own.length).fill(1), part);
    moved = combineAreas(combineAreas(moved, whole, 'subtract'), spansOfPixels(own, part), 'add');
  }
  return moved;
}
