import type { Raster } from '../../raster/raster.ts';
import type { Rect } from '../../raster/rect.ts';
import { intersectRects } from '../../raster/rect.ts';
import type { SampledSource } from '../../source/sampleSource.ts';
import type { CloneMend } from './cloneMend.ts';
import type { Patch } from '../../raster/patch.ts';
import { colourPlanes } from '../../raster/patch.ts';

/** One touch of a round pen. */
export interface Dab {
  readonly x: number;
  readonly y: number;
  /** Radius at full effect, in pixels. */
  readonly r: number;
  /** The rectangle it may change. It may leave the picture. */
  readonly rect: Rect;
}

/** Dabs follow each other by this share of the pen's width (common practice). */
const SPACING = 0.25;

/** The dabs of a clone's stroke, from its first point to its last. */
export function dabsAlong({ target, margin, edge }: CloneMend): Dab[] {
  if (target.shape !== 'stroke') return [];
  const { points, width, pressure } = target;
  const dabAt = (x: number, y: number, press: number): Dab => {
    const r = (width * press) / 2 + margin;
    const left = Math.floor(x - r - edge);
    const top = Math.floor(y - r - edge);
    return {
      x,
      y,
      r,
      rect: { left, top, width: Math.ceil(x + r + edge) - left, height: Math.ceil(y + r + edge) - top },
    };
  };
  const spacing = Math.max(1, SPACING * width);
  const dabs = [dabAt(points[0][0], points[0][1], pressure?.[0] ?? 1)];
  let left = spacing;
  for (let i = 1; i < points.length; i++) {
    const [[ax, ay], [bx, by]] = [points[i - 1], points[i]];
    const length = Math.hypot(bx - ax, by - ay);
    for (; left <= length; left += spacing) {
      const t = left / length;
      const [from, to] = [pressure?.[i - 1] ?? 1, pressure?.[i] ?? 1];
      dabs.push(dabAt(ax + t * (bx - ax), ay + t * (by - ay), from + t * (to - from)));
    }
    left -= length;
  }
  return dabs;
}

/** How much of a pixel at a distance from a dab's middle it covers. */
function dabCoverage(distance: number, r: number, edge: number): number {
  if (distance <= r) return 1;
  return edge > 0 ? Math.max(0, 1 - (distance - r) / edge) : 0;
}

/** The colours of a picture on a rectangle, as floating point. */
const floatsOn = (under: Raster, { width, height }: Rect): Float32Array[] =>
  colourPlanes(under).map((plane) =>
    Float32Array.from(
      { length: width * height },
      (_, i) => plane[Math.floor(i / width) * under.stride + (i % width)],
    ),
  );

/** Lays one dab over what lies there. */
function layDab(
  { edge, share, buildUp }: CloneMend,
  dab: Dab,
  area: Rect,
  source: SampledSource,
  patch: Patch,
): void {
  const { rect, values, coverage } = patch;
  const { planes, there } = source;
  for (let row = 0, from = 0; row < area.height; row++)
    for (let column = 0; column < area.width; column++, from++) {
      const [x, y] = [area.left + column, area.top + row];
      const amount = dabCoverage(Math.hypot(x + 0.5 - dab.x, y + 0.5 - dab.y), dab.r, edge);
      if (amount === 0 || !there[from]) continue;
      const i = (y - rect.top) * rect.width + x - rect.left;
      // Built up, the values carry the mixture and the coverage is whole; else the nearest dab wins.
      const nearest = amount >= coverage[i] ? 1 : 0;
      const mix = buildUp ? amount * share : nearest;
      for (let c = 0; c < values.length; c++) values[c][i] += mix * (planes[c][from] - values[c][i]);
      coverage[i] = buildUp ? 1 : Math.max(coverage[i], amount);
    }
}

/**
 * Lays dabs one over the other. With building up each adds its share to what lies there; without, a pixel is covered
 * as much as by its nearest dab.
 *
 * @param under the picture on the rectangle
 * @param read gives a dab's source on a rectangle
 */
export function layDabs(
  mend: CloneMend,
  dabs: readonly Dab[],
  rect: Rect,
  under: Raster,
  read: (dab: Dab, area: Rect) => SampledSource,
): Patch {
  const patch = {
    rect,
    values: floatsOn(under, rect),
    coverage: new Float32Array(rect.width * rect.height),
  };
  for (const dab of dabs) {
    const area = intersectRects(dab.rect, rect);
    if (area.width > 0 && area.height > 0) layDab(mend, dab, area, read(dab, area), patch);
  }
  return patch;
}
