import { lumaPlane } from '../../raster/float.ts';
import type { Window } from '../../raster/window.ts';
import type { StrokeTarget } from '../../target/target.ts';
import { lineCoordinates } from '../recover/line/lineCoordinates.ts';
import { coursePieces } from './coursePieces.ts';

/** A line is looked for so far to both sides of its course, in pixels, in such steps. */
const FARTHEST = 9;
const STEP = 0.5;
/** How bright the picture is beside it is measured on what lies farther away than this. */
const BESIDE = 6;
/** A line ends where it departs by less than this share of what it does in its middle, or by no more than chance. */
const LEAST_SHARE = 0.02;
const BY_CHANCE = 3;
/** On its flat top a line does not end: only where less than this share of it is left. */
const SHOULDER = 0.25;
/** What lies just beyond is measured over so many steps. */
const NEXT = 3;
/** A mean of fewer pixels tells nothing. */
const LEAST_COUNT = 12;

/** How far around a stroke its picture must be known, in pixels. */
export const EXTENT_LOOK = FARTHEST + 1;

/** What is bright beside a line and what is dark is decided piece by piece, each about so many pixels of its course. */
const PIECE = 24;

/** Departures from what lies beside each piece of the course, by distance from it: their means and standard errors. */
function profileOf(target: StrokeTarget, { left, top, raster }: Window): { mean: number; error: number }[] {
  const { width, height, data } = lumaPlane(raster);
  const { across, place } = lineCoordinates(target.points, { left, top, width, height }, FARTHEST);
  const pieces = coursePieces(target.points, PIECE);
  const beside = Array.from({ length: pieces.count }, () => ({ sum: 0, count: 0 }));
  for (let i = 0; i < data.length; i++) {
    const away = Math.abs(across[i]);
    if (away < BESIDE || away >= FARTHEST) continue;
    const piece = beside[pieces.at(place[i])];
    piece.sum += data[i];
    piece.count++;
  }
  const bins = Array.from({ length: Math.ceil(FARTHEST / STEP) }, () => ({ sum: 0, squares: 0, count: 0 }));
  for (let i = 0; i < data.length; i++) {
    const away = Math.abs(across[i]);
    if (away >= FARTHEST) continue;
    const ground = beside[pieces.at(place[i])];
    if (ground.count < LEAST_COUNT) continue;
    const departs = data[i] - ground.sum / ground.count;
    const bin = bins[Math.floor(away / STEP)];
    bin.sum += departs;
    bin.squares += departs * departs;
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
  const own = profile[0].mean;
  if (Number.isNaN(own) || Math.abs(own) < BY_CHANCE * profile[0].error) return null;
  const ends = profile.findIndex(({ mean, error }, k) => {
    const beyond = profile.slice(k + 1, k + 1 + NEXT).filter((bin) => !Number.isNaN(bin.mean));
    // The line may lie on a rise or in a hollow of its own: what is just beyond tells its end, not what is far off.
    const ground = beyond.reduce((sum, bin) => sum + bin.mean, 0) / beyond.length;
    const isBesideIt = Math.sign(own) * mean < SHOULDER * Math.abs(own);
    return (
      isBesideIt &&
      Math.sign(own) * (mean - ground) < Math.max(LEAST_SHARE * Math.abs(own), BY_CHANCE * error)
    );
  });
  return ends < 0 ? null : ends * STEP;
}
