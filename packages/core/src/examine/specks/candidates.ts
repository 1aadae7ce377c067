import type { FloatPlane } from '../../raster/float.ts';
import { halveFloat } from '../../raster/float.ts';
import type { Polarity } from '../fault.ts';
import { contrastMaps } from './contrast.ts';

/** A place that may be a speck, in pixels of the level it was found on. */
export interface Candidate {
  /** Which halving: the scale is `2 ** level`. */
  readonly level: number;
  readonly x: number;
  readonly y: number;
  readonly radius: number;
  readonly polarity: Polarity;
  /** Contrast over the usual contrast of its scale round about. */
  readonly significance: number;
}

/** Radii that are looked for on a level, in its own pixels; each level's are twice those of the one before. */
const RADII = [1.41, 2];
/** The full-size level has none before it: it starts a little lower. */
const FINEST_RADII = [1.25, 2];
/** A contrast that no eye sees: half a code of 255. Keeps perfectly flat places from dividing by nothing. */
const LEAST_CONTRAST = 0.5 / 255;
/** Below this a candidate is not worth measuring. */
const LEAST_SIGNIFICANCE = 2.5;

/** Luma at full size and its halvings. */
export function lumaLevels(luma: FloatPlane, largestRadius: number): FloatPlane[] {
  const levels = [luma];
  while (RADII[0] * 2 ** levels.length <= largestRadius) {
    const last = levels[levels.length - 1];
    if (Math.min(last.width, last.height) < 32) break;
    levels.push(halveFloat(last));
  }
  return levels;
}

/** Local maxima of one contrast map that exceed the usual contrast. */
function peaks(
  map: FloatPlane,
  usual: FloatPlane,
  at: Pick<Candidate, 'level' | 'radius' | 'polarity'>,
): Candidate[] {
  const { width, height, data } = map;
  const found: Candidate[] = [];
  for (let y = 1; y < height - 1; y++) {
    for (let x = 1; x < width - 1; x++) {
      const i = y * width + x;
      const value = data[i];
      if (value < LEAST_CONTRAST) continue;
      const significance = value / (usual.data[i] + LEAST_CONTRAST);
      if (significance < LEAST_SIGNIFICANCE) continue;
      const isPeak =
        value > data[i - 1] &&
        value >= data[i + 1] &&
        value > data[i - width] &&
        value >= data[i + width] &&
        value > data[i - width - 1] &&
        value >= data[i + width + 1] &&
        value > data[i - width + 1] &&
        value >= data[i + width - 1];
      if (isPeak) found.push({ ...at, x: x + 0.5, y: y + 0.5, significance });
    }
  }
  return found;
}

/** All candidates on all levels, of the polarities asked for. */
export function speckCandidates(levels: readonly FloatPlane[], polarities: readonly Polarity[]): Candidate[] {
  return levels.flatMap((plane, level) =>
    (level === 0 ? FINEST_RADII : RADII).flatMap((radius) => {
      const maps = contrastMaps(plane, radius);
      return polarities.flatMap((polarity) => peaks(maps[polarity], maps.usual, { level, radius, polarity }));
    }),
  );
}
