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

/** A completion at full size: a coarse one is drawn between its pixels. */
function enlarged({ halvings, width, height, colours }: Completion, rect: Rect): readonly Float32Array[] {
  if (halvings === 0) return colours;
  const unit = 2 ** halvings;
  return colours.map((plane) => {
    const out = new Float32Array(rect.width * rect.height);
    for (let y = 0, i = 0; y < rect.height; y++) {
      const down = Math.min(height - 1, Math.max(0, (y + 0.5) / unit - 0.5));
      const top = Math.floor(down);
      const below = Math.min(height - 1, top + 1) * width;
      for (let x = 0; x < rect.width; x++, i++) {
        const across = Math.min(width - 1, Math.max(0, (x + 0.5) / unit - 0.5));
        const left = Math.floor(across);
        const right = Math.min(width - 1, left + 1);
        const upper =
          plane[top * width + left] +
          (across - left) * (plane[top * width + right] - plane[top * width + left]);
        const lower = plane[below + left] + (across - left) * (plane[below + right] - plane[below + left]);
        out[i] = upper + (down - top) * (lower - upper);
      }
    }
    return out;
  });
}

/** What a rebuild would lay down so far. */
export interface RebuildAnswer {
  /** Halvings that are still to be undone: 0 is the mend itself. */
  readonly halvings: number;
  readonly patch: Patch;
}

/**
 * Rebuilds what is gone from the rest of the picture ({@link completeLoss}), along guide lines where there are some.
 * Nothing is taken from guards, from outside of the mend's zone, from open faults it names, nor, where it says what to
 * take from, from anywhere else. Works on encoded values, as paint. Where there is nothing to take, nothing is laid.
 *
 * @yields an answer for each level, the coarsest first; the last is the mend
 */
export function* rebuildSteps(mend: RebuildMend, canvas: Canvas): Generator<RebuildAnswer, void> {
  const { pixels } = canvas;
  const [rect] = rebuildReads(mend, pixels.shape);
  if (!rect) return;
  const { coverage } = fieldOn(mend, rect);
  const loss = lossOf(mend, canvas, rect, coverage);
  const answers = completeLoss(loss, mend.seed, (halvings, width, height) =>
    guidePlanes(mend.guides, rect, halvings, width, height),
  );
  const scale = fullScale(pixels.shape.depth) / 255;
  for (const answer of answers) {
    const values = enlarged(answer, rect).map((plane) => plane.map((value) => value * scale));
    // What was only looked at is not kept.
    const patch = cropPatch({ rect, values, coverage }, footprintRect(mend, pixels.shape));
    yield { halvings: answer.halvings, patch };
  }
}

/** What is laid down in the end, see {@link rebuildSteps}. */
export function rebuild(mend: RebuildMend, canvas: Canvas): Patch {
  let last = EMPTY_PATCH;
  for (const { patch } of rebuildSteps(mend, canvas)) last = patch;
  return last;
}
