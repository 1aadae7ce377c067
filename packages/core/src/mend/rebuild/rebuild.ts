import { allowanceOn } from '../../fence/allowance.ts';
import type { PictureShape } from '../../raster/raster.ts';
import { fullScale } from '../../raster/raster.ts';
import type { Rect } from '../../raster/rect.ts';
import { growRect, intersectRects, isEmpty } from '../../raster/rect.ts';
import { pictureRect } from '../../raster/window.ts';
import { maskPixels, targetDistance } from '../../target/targetDistance.ts';
import { fieldOn, footprintRect } from '../../target/targetField.ts';
import type { Canvas } from '../canvas.ts';
import type { RebuildMend } from './rebuildMend.ts';
import type { Patch } from '../../raster/patch.ts';
import { EMPTY_PATCH, colourFloats } from '../../raster/patch.ts';
import type { Completion } from './completeLoss.ts';
import { completeLoss } from './completeLoss.ts';
import type { Loss } from './completionLevel.ts';
import { guidingOf } from './guidePlanes.ts';
import { withVariants } from './withVariants.ts';

/** Sources are looked for around the loss as far as so many of its longer sides. */
const REACH_SIDES = 1.5;
/** And at least and at most so far, in pixels. */
const [LEAST_REACH, MOST_REACH] = [48, 320];

/** Among copies there are many times the sources, and the right one is seldom next to one that is nearly right. */
const TRIES_AMONG_VARIANTS = 200;

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

/** How much of each pixel of its footprint a mend covers. */
interface Covered {
  readonly footprint: Rect;
  readonly coverage: Float32Array;
}

/** 1 where a mend covers a pixel of a rectangle and may change it. */
function lostPixels(
  { footprint, coverage }: Covered,
  rect: Rect,
  allowance: Float32Array | null,
): Uint8Array {
  const lost = new Uint8Array(rect.width * rect.height);
  for (let y = 0, i = 0; y < footprint.height; y++) {
    const row = (footprint.top + y - rect.top) * rect.width + footprint.left - rect.left;
    for (let x = 0; x < footprint.width; x++, i++)
      if (coverage[i] > 0 && (!allowance || allowance[row + x] > 0)) lost[row + x] = 1;
  }
  return lost;
}

/** What is lost, and what may be looked at and taken from. */
function lossOf(mend: RebuildMend, { pixels, fences }: Canvas, rect: Rect, covered: Covered): Loss {
  const here = pixels.window(rect).raster;
  const scale = 255 / fullScale(here.depth);
  const colours = colourFloats(here);
  for (const plane of colours) for (let i = 0; i < plane.length; i++) plane[i] *= scale;
  const allowance = allowanceOn(fences, mend.zone, rect, pixels.shape);
  const lost = lostPixels(covered, rect, allowance);
  const away = mend.from ? targetDistance(mend.from, rect) : null;
  const kept = new Uint8Array(lost.length);
  if (allowance) for (let i = 0; i < kept.length; i++) if (allowance[i] < 1) kept[i] = 1;
  if (away) for (let i = 0; i < kept.length; i++) if (away[i] > 0) kept[i] = 1;
  const { width, height } = pixels.shape;
  const ends = {
    ...{ left: rect.left === 0, right: rect.left + rect.width === width },
    ...{ top: rect.top === 0, bottom: rect.top + rect.height === height },
  };
  return {
    ...{ width: rect.width, height: rect.height, lost, colours, kept, ends },
    unknown: mend.avoid ? maskPixels(mend.avoid, rect) : new Uint8Array(lost.length),
  };
}

/** A part of a completion at full size, in code values; a coarse one is drawn between its pixels. */
function enlarged(
  { halvings, width, height, colours }: Completion,
  { left, top, width: wide, height: tall }: Rect,
  scale: number,
): Float32Array[] {
  const unit = 2 ** halvings;
  const within = (at: number, most: number): number => Math.min(most - 1, Math.max(0, at));
  return colours.map((plane) => {
    const out = new Float32Array(wide * tall);
    for (let y = 0, i = 0; y < tall; y++) {
      const down = within((top + y + 0.5) / unit - 0.5, height);
      const above = Math.floor(down) * width;
      const below = within(Math.floor(down) + 1, height) * width;
      const partDown = down - Math.floor(down);
      for (let x = 0; x < wide; x++, i++) {
        const across = within((left + x + 0.5) / unit - 0.5, width);
        const before = Math.floor(across);
        const after = within(before + 1, width);
        const part = across - before;
        const upper = plane[above + before] + part * (plane[above + after] - plane[above + before]);
        const lower = plane[below + before] + part * (plane[below + after] - plane[below + before]);
        out[i] = scale * (upper + partDown * (lower - upper));
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
 * @param canvas encoded values, 8 or 16 bit, of what the mend reads
 * @yields an answer for each level, the coarsest first; the last is the mend
 */
export function* rebuildSteps(mend: RebuildMend, canvas: Canvas): Generator<RebuildAnswer, void> {
  const { pixels } = canvas;
  const [rect] = rebuildReads(mend, pixels.shape);
  if (!rect) return;
  const footprint = footprintRect(mend, pixels.shape);
  const { coverage } = fieldOn(mend, footprint);
  const loss = withVariants(lossOf(mend, canvas, rect, { footprint, coverage }), mend.variants ?? []);
  const answers = completeLoss(
    loss,
    mend.seed,
    guidingOf(mend.guides, rect, loss.ends),
    mend.variants ? TRIES_AMONG_VARIANTS : undefined,
  );
  const scale = fullScale(pixels.shape.depth) / 255;
  // What was only looked at is not kept.
  const part = { ...footprint, left: footprint.left - rect.left, top: footprint.top - rect.top };
  for (const answer of answers) {
    const values = enlarged(answer, part, scale);
    yield { halvings: answer.halvings, patch: { rect: footprint, values, coverage } };
  }
}

/** What is laid down in the end, see {@link rebuildSteps}. */
export function rebuild(mend: RebuildMend, canvas: Canvas): Patch {
  let last = EMPTY_PATCH;
  for (const { patch } of rebuildSteps(mend, canvas)) last = patch;
  return last;
}
