import { lumaPlane } from '../../raster/float.ts';
import type { Window } from '../../raster/window.ts';
import type { StrokeTarget } from '../../target/target.ts';
import { lineCoordinates } from '../recover/line/lineCoordinates.ts';

/** A line is looked for so far to both sides of its course, in pixels, in such steps. */
const FARTHEST = 9;
const STEP = 0.5;
/** How bright the picture is beside it is told by what lies farther away than this. */
const BESIDE = 6;
/** A line ends where it departs by less than this share of what it does in its middle, or by no more than chance. */
const LEAST_SHARE = 0.02;
const BY_CHANCE = 3;
/** A mean of fewer pixels tells nothing. */
const LEAST_COUNT = 12;

/** How far around a stroke its picture must be known, in pixels. */
export const EXTENT_LOOK = FARTHEST + 1;

/** Means and their standard errors by distance from the course, over all of it. */
function profileOf(target: StrokeTarget, { left, top, raster }: Window): { mean: number; error: number }[] {
  const { width, height, data } = lumaPlane(raster);
  const { across } = lineCoordinates(target.points, { left, top, width, height }, FARTHEST);
  const bins = Array.from({ length: Math.ceil(FARTHEST / STEP) }, () => ({ sum: 0, squares: 0, count: 0 }));
  for (let i = 0; i < data.length; i++) {
    const away = Math.abs(across[i]);
    if (away >= FARTHEST) continue;
    const bin = bins[Math.floor(away / STEP)];
    bin.sum += data[i];
    bin.squares += data[i] * data[i];
    bin.count++;
  }
  return bins.map(({ sum, squares, count }) => {
    if (count < LEAST_COUNT) return { mean: NaN, error: Infinity };
    const mean = sum / count;
    return { mean, error: Math.sqrt(Math.max(0, squares / count - mean * mean) / count) };
  });
}

/**
 * How far a line is seen from its course, its blurred shoulders and all: the mean over all of its length departs from
 * what lies beside it. A fill that begins nearer takes some of the line for the picture.
 *
 * @param window holds the stroke and {@link EXTENT_LOOK} around it, as far as the picture goes
 * @returns pixels from the middle; null where no line stands out
 */
export function lineExtent(target: StrokeTarget, window: Window): number | null {
  const profile = profileOf(target, window);
  const beside = profile.slice(BESIDE / STEP).filter(({ mean }) => !Number.isNaN(mean));
  if (beside.length === 0 || Number.isNaN(profile[0].mean)) return null;
  const rest = beside.reduce((sum, { mean }) => sum + mean, 0) / beside.length;
  const own = profile[0].mean - rest;
  if (Math.abs(own) < BY_CHANCE * profile[0].error) return null;
  const ends = profile.findIndex(
    ({ mean, error }) =>
      Math.sign(own) * (mean - rest) < Math.max(LEAST_SHARE * Math.abs(own), BY_CHANCE * error),
  );
  return ends < 0 ? null : ends * STEP;
}
