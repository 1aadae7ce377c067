import type { Pixels } from '../../raster/pixels.ts';
import type { PictureShape } from '../../raster/raster.ts';
import type { Place } from '../../source/occupied.ts';
import type { Point, StrokeTarget } from '../../target/target.ts';
import { applyMend } from '../applyMend.ts';
import { GAP_BAND } from '../bridge/closeGap.ts';
import { canvasOf } from '../canvas.ts';
import type { MendBase } from '../mendBase.ts';
import type { SpotMend } from '../spotMend.ts';
import { colourPlanes } from '../../raster/patch.ts';

/** So much of a line must lie on the picture once it is moved. */
const LEAST_INSIDE = 0.8;
/** A pixel is predicted where so much of it is covered. */
const COVERED = 0.5;

/** How far a line is moved: it and what it is predicted from must lie clear of where it was, in pixels. */
export const trialDistance = (
  { width }: StrokeTarget,
  { margin, edge }: Pick<MendBase, 'margin' | 'edge'>,
): number => Math.ceil(width + 2 * (margin + edge)) + GAP_BAND;

const movedBy = (line: StrokeTarget, dx: number, dy: number): StrokeTarget => ({
  ...line,
  points: line.points.map(([x, y]): Point => [x + dx, y + dy]),
});

/** The same line beside itself, on ground that is known; null where the picture has none to either side. */
export function lineBeside(base: MendBase, line: StrokeTarget, picture: PictureShape): StrokeTarget | null {
  const [[fromX, fromY], [toX, toY]] = [line.points[0], line.points[line.points.length - 1]];
  const length = Math.hypot(toX - fromX, toY - fromY);
  if (length === 0) return null;
  const away = trialDistance(line, base) / length;
  const [dx, dy] = [Math.round(away * (fromY - toY)), Math.round(away * (toX - fromX))];
  const isInside = ([x, y]: Point): boolean => x >= 0 && y >= 0 && x < picture.width && y < picture.height;
  const shareOf = ({ points }: StrokeTarget): number => points.filter(isInside).length / points.length;
  const sides = [movedBy(line, dx, dy), movedBy(line, -dx, -dy)];
  return sides.find((side) => shareOf(side) >= LEAST_INSIDE) ?? null;
}

/** Round places that together cover a line: what was lost there tells nothing. */
export const placesAlong = ({ points, width }: StrokeTarget, reach: number): Place[] =>
  points.map(([x, y]): Place => ({ x, y, r: width / 2 + reach }));

/** By how much a mend errs on ground that is known: the mean difference from what is there, in code values. */
export function errorThere(mend: SpotMend, pixels: Pixels): number {
  const { rect, values, coverage } = applyMend(mend, canvasOf(pixels));
  if (values.length === 0) return Infinity;
  const { raster } = pixels.window(rect);
  let [sum, count] = [0, 0];
  colourPlanes(raster).forEach((plane, c) => {
    for (let y = 0, i = 0; y < rect.height; y++)
      for (let x = 0; x < rect.width; x++, i++) {
        if (coverage[i] < COVERED) continue;
        sum += Math.abs(values[c][i] - plane[y * raster.stride + x]);
        count++;
      }
  });
  return count > 0 ? sum / count : Infinity;
}
