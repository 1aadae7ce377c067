import type { Rect } from '../../../raster/rect.ts';
import type { Point } from '../../../target/target.ts';
import { penumbraFast } from '../../../veil/penumbra.ts';
import { PIXEL_BLUR } from '../../../veil/veil.ts';
import { lineCoordinates } from './lineCoordinates.ts';

/**
 * A thin line before the picture, a scratch or a hair: `seen = real (1 - a) + a light` in linear light, with `a` a slit
 * of `depth` whose two borders are blurred by the optics. In its shoulders light of the picture comes through.
 */
export interface LineVeil {
  readonly kind: 'line';
  /** Its course, in pixels of the upright picture. */
  readonly points: readonly Point[];
  /** Full width of the slit at each point, in pixels. */
  readonly widths: readonly number[];
  /** Half the width of a border beyond the pixel's own blur, in pixels. */
  readonly softness: number;
  /** `a` in the middle of a wide slit, 0 to below 1. */
  readonly depth: number;
  /** Linear light of its own for each colour channel. */
  readonly light: readonly number[];
  /**
   * What is added to `a` by how far a pixel lies beyond the slit's border: the first number at {@link INNERMOST} pixels,
   * then one every {@link BEYOND_STEP}; 0 farther out.
   */
  readonly correction: readonly number[];
  /** Standard errors of the fit: of `a`, and of where the course lies, in pixels. */
  readonly doubt: { readonly amount: number; readonly beside: number };
}

/** Distances beyond the border of a slit at which its cross-section is corrected, in pixels. */
const INNERMOST = -1;
const BEYOND_STEP = 0.25;
export const CORRECTIONS = 11;
/** Beyond this distance from its border a line is nothing, whatever its shoulders. */
export const OUTERMOST = INNERMOST + CORRECTIONS * BEYOND_STEP;

/** Place in the list of corrections, 0 for all of the inside. */
export const correctionPlace = (beyond: number): number => Math.max(0, (beyond - INNERMOST) / BEYOND_STEP);

/** The correction of `a` at a distance beyond the border. */
function correctionAt(correction: readonly number[], beyond: number): number {
  const place = correctionPlace(beyond);
  return place < correction.length - 1 ? readBetween(correction, place) : 0;
}

/** The most that is reckoned with: something always comes through. */
export const DEEPEST = 0.99;

/** `a` of a slit of a depth with its correction, `beyond` pixels from its border; `slit` is what {@link slitAt} gives. */
export const correctedAmount = (
  { depth, correction }: Pick<LineVeil, 'depth' | 'correction'>,
  slit: number,
  beyond: number,
): number => Math.min(DEEPEST, Math.max(0, depth * slit + correctionAt(correction, beyond)));

/** `a` of a line at a distance from its course. */
export const amountAt = (
  line: Pick<LineVeil, 'softness' | 'depth' | 'correction'>,
  away: number,
  half: number,
): number => correctedAmount(line, slitAt(away, half, shoulderOf(line.softness)), away - half);

/** How far a line reaches from its course, in pixels. */
const reachOf = ({ widths, softness }: LineVeil): number =>
  Math.max(...widths) / 2 + Math.max(OUTERMOST, shoulderOf(softness));

/** Half the width of a border with the pixel's own blur in it, in pixels. */
export const shoulderOf = (softness: number): number => Math.hypot(softness, PIXEL_BLUR);

/** `a` of a slit of depth 1 at a distance from its middle, all in pixels. */
export const slitAt = (away: number, half: number, shoulder: number): number =>
  penumbraFast((half - away) / shoulder) - penumbraFast((-half - away) / shoulder);

/** A list read between its numbers. */
export function readBetween(list: readonly number[], place: number): number {
  const k = Math.min(list.length - 1, Math.floor(place));
  const next = Math.min(list.length - 1, k + 1);
  return list[k] + (place - k) * (list[next] - list[k]);
}

/** `a` at the centre of each pixel of a rectangle, row after row. */
export function lineField(veil: LineVeil, rect: Rect): Float32Array {
  const { across, place } = lineCoordinates(veil.points, rect, reachOf(veil));
  return across.map((away, i) =>
    away === Infinity ? 0 : amountAt(veil, Math.abs(away), readBetween(veil.widths, place[i]) / 2),
  );
}

/** Standard error of `a` for each pixel: of the cross-section, and of where the course lies. */
export function lineDoubt(veil: LineVeil, rect: Rect): Float32Array {
  const step = 0.25;
  const { across, place } = lineCoordinates(veil.points, rect, reachOf(veil) + step);
  return across.map((away, i) => {
    if (away === Infinity) return 0;
    const half = readBetween(veil.widths, place[i]) / 2;
    const [near, far] = [Math.abs(away - step), Math.abs(away + step)];
    const slope = Math.abs(amountAt(veil, far, half) - amountAt(veil, near, half)) / (2 * step);
    return Math.hypot(veil.doubt.amount, slope * veil.doubt.beside);
  });
}
