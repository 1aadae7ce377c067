import type { RimPeak } from './rimPeaks.ts';

/** Where a plane's first pixel lies on its level of the picture, in pixels of the level. */
export interface PlaneOrigin {
  readonly left: number;
  readonly top: number;
}

/** Side of a square, in pixels of the level. */
const SQUARE = 192;

/**
 * The strongest peaks of every square: where more stand out, none does. Squares lie on the picture, whatever part of it is
 * looked at.
 *
 * @param width of the plane that the peaks were found on, in pixels
 * @param most that a square may have
 */
export function strongestInSquares(
  peaks: readonly RimPeak[],
  width: number,
  { left, top }: PlaneOrigin,
  most: number,
): RimPeak[] {
  const squares = new Map<number, RimPeak[]>();
  const across = Math.ceil(width / SQUARE) + 1;
  for (const peak of peaks) {
    const y = Math.floor(peak.at / width);
    const [column, row] = [Math.floor((left + peak.at - y * width) / SQUARE), Math.floor((top + y) / SQUARE)];
    const square = row * across + column;
    const others = squares.get(square);
    if (others) others.push(peak);
    else squares.set(square, [peak]);
  }
  return [...squares.values()].flatMap((inSquare) =>
    inSquare.length <= most
      ? inSquare
      : inSquare.sort((a, b) => b.strength - a.strength || a.at - b.at).slice(0, most),
  );
}
