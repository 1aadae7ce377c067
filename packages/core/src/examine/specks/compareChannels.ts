import { kernels, layOut, take } from '../../kernels/kernels.ts';
import { DIRECTIONS } from '../../kernels/layout.ts';
import { fullScale } from '../../raster/raster.ts';
import type { HeldColours } from '../ground/heldGround.ts';
import { CORE, COS, RING, SIN } from './measureSurroundings.ts';

/** In pixels of the picture. */
export interface Disc {
  readonly x: number;
  readonly y: number;
  readonly r: number;
}

/** By how much each channel is lowered inside a disc, in natural logarithm. */
export interface DiscColours {
  readonly mean: number;
  /** How far the channels lie apart. */
  readonly apart: number;
}

/** Added to codes of 0 to 1 before their logarithm is taken: below it a difference is mostly noise. */
const DARK = 0.012;

/** Looks at the colours in and around many discs; beyond the border the nearest sample counts. */
export function compareChannels(
  { channels, width, height, depth }: HeldColours,
  discs: readonly Disc[],
): DiscColours[] {
  const count = channels.length;
  const places = new Float64Array(3 * discs.length);
  discs.forEach(({ x, y, r }, k) => {
    places[3 * k] = x;
    places[3 * k + 1] = y;
    places[3 * k + 2] = r;
  });
  const sumCount = 2 * count * discs.length;
  const [planes, discsAt, cos, sin, sums] = layOut([
    Int32Array.from(channels),
    places,
    COS,
    SIN,
    4 * sumCount,
  ]);
  kernels().compareChannels(
    ...[planes, count, depth === 16 ? 1 : 0, width, height, discsAt, discs.length],
    ...[CORE, RING, cos, sin, sums],
  );
  const seen = take(Int32Array, sums, sumCount);
  const [insideUnit, outsideUnit] = [(DIRECTIONS + 1) * fullScale(depth), DIRECTIONS * fullScale(depth)];
  return discs.map((_, k): DiscColours => {
    let [mean, least, most] = [0, Infinity, -Infinity];
    for (let c = 0; c < count; c++) {
      const at = 2 * (count * k + c);
      const lowered = Math.log((seen[at + 1] / outsideUnit + DARK) / (seen[at] / insideUnit + DARK));
      mean += lowered / count;
      least = Math.min(least, lowered);
      most = Math.max(most, lowered);
    }
    return { mean, apart: most - least };
  });
}
