import type { Raster } from '../../raster/raster.ts';
import { colourChannels, fullScale } from '../../raster/raster.ts';
import type { Point } from '../../target/target.ts';
import { medianOf } from '../../measure/medianOf.ts';
import type { AssembledPiece, Join } from '../assembly.ts';
import { place, unplace } from '../fit/placement.ts';
import { normalsOf } from '../pieces/course.ts';

/** Tones are read so far inside of a border, and in another piece so far beyond it, in pixels: clear of white fibre. */
const INSIDE = 4;
const BEYOND = [4, 7, 10, 14, 18];
/** Every so many points of a border are read. */
const STRIDE = 4;
/** Fewer places along a seam say nothing. */
const LEAST_PLACES = 24;
/** Values outside of these shares of the full scale are too dark or clipped to say by how much they differ. */
const USABLE = { from: 0.08, to: 0.97 };
/** Rounds in which each piece is matched to those around it. */
const ROUNDS = 40;

/** The mean of the 3 x 3 samples around a place of a scan; NaN where it is not on the scan. */
function sampleAt({ width, height, stride }: Raster, plane: ArrayLike<number>, [x, y]: Point): number {
  const [column, row] = [Math.floor(x), Math.floor(y)];
  if (column < 1 || row < 1 || column >= width - 1 || row >= height - 1) return NaN;
  let sum = 0;
  for (let dy = -1; dy <= 1; dy++)
    for (let dx = -1; dx <= 1; dx++) sum += plane[(row + dy) * stride + column + dx];
  return sum / 9;
}

/** How far a place lies from the nearest of some points, in pixels. */
function distanceToPoints(points: readonly Point[], [x, y]: Point): number {
  let least = Infinity;
  for (const [px, py] of points) least = Math.min(least, (px - x) ** 2 + (py - y) ** 2);
  return Math.sqrt(least);
}

/** By how much the values of one piece exceed those of the other along their seam, as logarithms for each channel. */
function differences(
  scans: readonly Raster[],
  first: AssembledPiece,
  second: AssembledPiece,
  full: number,
): number[] | null {
  const { placement } = first;
  const onto = second.placement;
  if (!placement || !onto) return null;
  const channels = colourChannels(scans[first.scan].planes.length);
  const normals = normalsOf(first.picture, 3);
  const found: number[][] = Array.from({ length: channels }, () => []);
  for (let i = 0; i < first.picture.length; i += STRIDE) {
    const [x, y] = first.picture[i];
    const [nx, ny] = normals[i];
    const border = unplace(onto, place(placement, [x, y]));
    const away = distanceToPoints(second.picture, border);
    if (away > BEYOND[BEYOND.length - 1]) continue;
    const here: Point = [x - INSIDE * nx, y - INSIDE * ny];
    const beyond = BEYOND.find((far) => far > away + INSIDE - 1) ?? BEYOND[BEYOND.length - 1];
    const there = unplace(onto, place(placement, [x + beyond * nx, y + beyond * ny]));
    for (let c = 0; c < channels; c++) {
      const [a, b] = [
        sampleAt(scans[first.scan], scans[first.scan].planes[c], here) / full,
        sampleAt(scans[second.scan], scans[second.scan].planes[c], there) / full,
      ];
      const isUsable = Math.min(a, b) > USABLE.from && Math.max(a, b) < USABLE.to;
      if (isUsable) found[c].push(Math.log(a / b));
    }
  }
  return found.every((values) => values.length >= LEAST_PLACES) ? found.map(medianOf) : null;
}

/**
 * Gains under which the tones of laid pieces go on from one to the next: those of pieces on one scan are the same, because it
 * was exposed once. A gain of encoded values is a gain of light where the encoding is a power (as sRGB's nearly is).
 *
 * @param scans as the pieces number them, encoded values
 * @returns for each scan its gain of each colour channel; the first scan's are 1
 */
export function matchTones(
  scans: readonly Raster[],
  pieces: readonly AssembledPiece[],
  joins: readonly Join[],
): number[][] {
  const channels = colourChannels(scans[0].planes.length);
  const logs = scans.map(() => new Array<number>(channels).fill(0));
  const full = fullScale(scans[0].depth);
  const seams = joins.flatMap(({ pieces: [a, b], length }) => {
    if (pieces[a].scan === pieces[b].scan) return [];
    const differs = differences(scans, pieces[a], pieces[b], full);
    return differs ? [{ from: pieces[a].scan, to: pieces[b].scan, differs, length }] : [];
  });
  // Each scan's gain becomes the mean of what its seams ask for, again and again (Gauss and Seidel's iteration).
  for (let round = 0; round < ROUNDS; round++)
    for (let scan = 1; scan < scans.length; scan++) {
      const around = seams.filter(({ from, to }) => from === scan || to === scan);
      const total = around.reduce((sum, { length }) => sum + length, 0);
      if (total === 0) continue;
      for (let c = 0; c < channels; c++)
        logs[scan][c] = around.reduce((sum, { from, to, differs, length }) => {
          const wanted = from === scan ? logs[to][c] - differs[c] : logs[from][c] + differs[c];
          return sum + (length / total) * wanted;
        }, 0);
    }
  return logs.map((values) => values.map(Math.exp));
}
