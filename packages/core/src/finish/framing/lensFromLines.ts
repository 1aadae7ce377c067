import type { Point } from '../../target/target.ts';
import { framingOf } from './framing.ts';

/** Lenses are looked for from pincushion to barrel. */
const WIDEST = 0.4;
/** The search ends when it is known as closely. */
const KNOWN_TO = 1e-5;
/** Points that are set by hand lie off their edge by so much, as a share of the diagonal. */
const HAND = 0.001;
/** Lenses bend by no more than about this. A short line in the middle tells so little that it would find any bend. */
const USUAL = 0.1;
const GOLDEN = (Math.sqrt(5) - 1) / 2;

/** How far points lie off the straight line that fits them best, as the sum of squares, in square pixels. */
function bendOf(points: readonly Point[]): number {
  const [mx, my] = [0, 1].map((k) => points.reduce((sum, point) => sum + point[k], 0) / points.length);
  let [xx, xy, yy] = [0, 0, 0];
  for (const [x, y] of points) {
    xx += (x - mx) ** 2;
    xy += (x - mx) * (y - my);
    yy += (y - my) ** 2;
  }
  // The smaller eigenvalue of the scatter is what is left across the line.
  return (xx + yy - Math.hypot(xx - yy, 2 * xy)) / 2;
}

/**
 * The radial distortion under which lines that are straight in the world become straight (plumb-line method, Brown
 * 1971), with one coefficient: by golden section on how far their points lie off straight lines, weighed against how
 * lenses usually are.
 *
 * @param lines points along each, in pixels of the upright original; those with fewer than three tell nothing
 * @returns `k1`, or null where no line tells anything
 */
export function lensFromLines(
  lines: readonly (readonly Point[])[],
  size: { readonly width: number; readonly height: number },
): number | null {
  const telling = lines.filter((line) => line.length >= 3);
  if (telling.length === 0) return null;
  const tolerance = HAND * Math.hypot(size.width, size.height);
  const left = (k1: number): number => {
    const framing = framingOf(size, [
      { id: 'lens', on: true, share: 1, method: 'lens', k1, k2: 0 },
      { id: 'all', on: true, share: 1, method: 'crop', left: 0, top: 0, ...size },
    ]);
    if (!framing) return Infinity;
    const bend = telling.reduce((sum, line) => sum + bendOf(line.map(([x, y]) => framing.toFramed(x, y))), 0);
    return bend / tolerance ** 2 + (k1 / USUAL) ** 2;
  };
  let [low, high] = [-WIDEST, WIDEST];
  while (high - low > KNOWN_TO) {
    const [inner, outer] = [high - GOLDEN * (high - low), low + GOLDEN * (high - low)];
    if (left(inner) < left(outer)) high = outer;
    else low = inner;
  }
  return (low + high) / 2;
}
