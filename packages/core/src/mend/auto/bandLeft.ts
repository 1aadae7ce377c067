import { lumaPlane } from '../../raster/float.ts';
import type { Window } from '../../raster/window.ts';
import type { StrokeTarget } from '../../target/target.ts';
import { lineCoordinates } from '../recover/line/lineCoordinates.ts';
import { coursePieces } from './coursePieces.ts';

/** What lies beside a line is measured from the end of what is mended on, over so many pixels. */
const BESIDE = 5;
/** A line is measured piece by piece, each about so many pixels of its course. */
const PIECE = 24;
const LEAST_COUNT = 10;
/** Spread of luma that a perfectly even ground is taken to have: about one code of 255. */
const LEAST_SPREAD = 1 / 255;

interface Moments {
  sum: number;
  squares: number;
  count: number;
}

const meanOf = ({ sum, count }: Moments): number => sum / count;
const spreadOf = ({ sum, squares, count }: Moments): number =>
  Math.sqrt(Math.max(0, squares / count - (sum / count) ** 2));

/**
 * How much a mended line still shows as a band: by how many spreads of its surroundings its middle lies above or below
 * them, in the mean over pieces of its course. A band of a few codes is seen on a calm ground and lost on a rough one; a
 * line that is left in a third of its course is seen there, whatever the rest is like.
 *
 * @param reach from its course to where the picture is untouched, in pixels
 * @param window the picture with the mend on it, `reach` and 6 pixels around the stroke
 */
export function bandLeft(target: StrokeTarget, reach: number, { left, top, raster }: Window): number {
  const { width, height, data } = lumaPlane(raster);
  const { points } = target;
  const { across, place } = lineCoordinates(points, { left, top, width, height }, reach + BESIDE);
  const { count, at } = coursePieces(points, PIECE);
  const fresh = (): Moments => ({ sum: 0, squares: 0, count: 0 });
  const pieces = Array.from({ length: count }, () => ({ over: fresh(), beside: fresh() }));
  for (let i = 0; i < data.length; i++) {
    const away = Math.abs(across[i]);
    if (away === Infinity || (away > target.width / 2 && away < reach)) continue;
    const piece = pieces[at(place[i])];
    const part = away < reach ? piece.over : piece.beside;
    part.sum += data[i];
    part.squares += data[i] * data[i];
    part.count++;
  }
  const departures = pieces
    .filter(({ over, beside }) => over.count >= LEAST_COUNT && beside.count >= LEAST_COUNT)
    .map(
      ({ over, beside }) =>
        Math.abs(meanOf(over) - meanOf(beside)) / Math.max(LEAST_SPREAD, spreadOf(beside)),
    );
  return departures.length === 0 ? 0 : departures.reduce((sum, one) => sum + one, 0) / departures.length;
}
