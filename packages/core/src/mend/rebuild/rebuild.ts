import { allowanceOn } from '../../fence/allowance.ts';
import type { PictureShape } from '../../raster/raster.ts';
import { fullScale } from '../../raster/raster.ts';
import type { Rect } from '../../raster/rect.ts';
import { growRect, intersectRects, isEmpty } from '../../raster/rect.ts';
import { pictureRect } from '../../raster/window.ts';
import { maskPixels, targetDistance } from '../../target/targetDistance.ts';
import { fieldOn, footprintRect } from '../../target/targetField.ts';
import type { Canvas } from '../canvas.ts';
import type { RebuildMend } from '../mend.ts';
import type { Patch } from '../patch.ts';
import { EMPTY_PATCH, colourFloats, cropPatch } from '../patch.ts';
import type { Completion } from './completeLoss.ts';
import { completeLoss } from './completeLoss.ts';
import type { Loss } from './completionLevel.ts';
import { guidePlanes } from './guidePlanes.ts';

/** Sources are looked for around the loss as far as so many of its longer sides. */
const REACH_SIDES = 1.5;
/** And at least and at most so far, in pixels. */
const [LEAST_REACH, MOST_REACH] = [48, 320];

function reachOf({ width, height }: Rect): number {
  const reach = Math.ceil(REACH_SIDES * Math.max(width, height));
  return Math.min(MOST_REACH, Math.max(LEAST_REACH, reach));
}

/** The rectangle a rebuild looks at: the loss and its wide surroundings. */
export function rebuildReads(mend: RebuildMend, picture: PictureShape): Rect[] {
  const footprint = footprintRect(mend, picture);
  if (isEmpty(footprint)) return [];
  return [intersectRects(growRect(footprint, reachOf(footprint)), pictureRect(picture))];
}

/** What is lost, and what may be looked at and taken from. */
function lossOf(mend: RebuildMend, { pixels, fences }: Canvas, rect: Rect, coverage: Float32Array): Loss {
  const here = pixels.window(rect).raster;
  const scale = 255 / fullScale(here.depth);
  const allowance = allowanceOn(fences, mend.zone, rect, pixels.shape);
  const lost = Uint8Array.from(coverage, (amount, i) =>
    amount > 0 && (!allowance || allowance[i] > 0) ? 1 : 0,
  );
  const away = mend.from ? targetDistance(mend.from, rect) : null;
  return {
    ...{ width: rect.width, height: rect.height, lost },
    colours: colourFloats(here).map((plane) => plane.map((value) => value * scale)),
    unknown: mend.avoid ? maskPixels(mend.avoid, rect) : new Uint8Array(lost.length),
    kept: Uint8Array.from(lost, (_, i) => ((allowance && allowance[i] < 1) || (away && away[i] > 0) ? 1 : 0)),
  };
}

/**
 * Rebuilds what is gone from the rest of the picture ({@link completeLoss}), along guide lines where there are some.
 * Nothing is taken from guards, from outside of the mend's zone, from open faults it names, nor, where it says what to
 * take from, from anywhere else. Works on encoded values, as paint. Where there is nothing to take, nothing is laid.
 */
export function rebuild(mend: RebuildMend, canvas: Canvas): Patch {
  const { pixels } = canvas;
  const [rect] = rebuildReads(mend, pixels.shape);
  if (!rect) return EMPTY_PATCH;
  const { coverage } = fieldOn(mend, rect);
  const loss = lossOf(mend, canvas, rect, coverage);
  let answer: Completion | null = null;
  for (answer of completeLoss(loss, mend.seed, (halvings, width, height) =>
    guidePlanes(mend.guides, rect, halvings, width, height),
  ));
  if (!answer) return EMPTY_PATCH;
  const scale = fullScale(pixels.shape.depth) / 255;
  const values = answer.colours.map((plane) => plane.map((value) => value * scale));
  // What was only looked at is not kept.
  return cropPatch({ rect, values, coverage }, footprintRect(mend, pixels.shape));
}
