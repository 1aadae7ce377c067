import { allowanceOn } from '../../fence/allowance.ts';
import type { PictureShape } from '../../raster/raster.ts';
import { fullScale } from '../../raster/raster.ts';
import type { Rect } from '../../raster/rect.ts';
import { growRect, intersectRects, isEmpty, uniteRects } from '../../raster/rect.ts';
import { pictureRect } from '../../raster/window.ts';
import { targetBounds } from '../../target/targetBounds.ts';
import { maskPixels } from '../../target/targetDistance.ts';
import { footprintRect, targetField } from '../../target/targetField.ts';
import type { Canvas } from '../canvas.ts';
import type { BridgeMend } from './bridgeMend.ts';
import type { Patch } from '../../raster/patch.ts';
import { EMPTY_PATCH, colourFloats } from '../../raster/patch.ts';
import { seedOf } from '../seedOf.ts';
import { exclusionMask } from './exclusionMask.ts';
import { GAP_BAND, closeGap } from './closeGap.ts';
import { undoRelief } from './relief/undoRelief.ts';

/** From this coverage on a pixel counts as lost; below it still tells. */
const LOST = 0.9;
/** How far known pixels are looked for beyond half the line's width. */
const SEARCH = 8;

/** A small spot is predicted from what lies closest to it; what is farther costs time and adds little. In pixels. */
const SMALL = 10;
const SMALL_BAND = 12;

function bandOf({ target }: BridgeMend): number {
  const { width, height } = targetBounds(target, 0);
  return Math.max(width, height) <= SMALL ? SMALL_BAND : GAP_BAND;
}

/** The rectangle a bridge may change: of a crease also the sheet that it lights. */
export function bridgeFootprint(mend: BridgeMend, picture: PictureShape): Rect {
  const own = footprintRect(mend, picture);
  if (!mend.relief || isEmpty(own)) return own;
  const lit = intersectRects(targetBounds(mend.target, (mend.relief.length - 1) / 2), pictureRect(picture));
  return uniteRects(own, lit);
}

/** The rectangle a bridge looks at: the line with a band of surroundings. */
export function bridgeReads(mend: BridgeMend, picture: PictureShape): Rect[] {
  const footprint = footprintRect(mend, picture);
  if (isEmpty(footprint)) return [];
  return [intersectRects(growRect(footprint, bandOf(mend)), pictureRect(picture))];
}

/** The longest way from a lost pixel to a known one is not known before it is walked; this is enough for a line. */
function searchRadius({ target, margin, edge }: BridgeMend): number {
  const width =
    target.shape === 'stroke' ? target.width : target.shape === 'disc' ? 2 * target.r : 2 * SEARCH;
  return Math.min(24, Math.ceil(width / 2 + margin + edge) + SEARCH);
}

/**
 * Closes what is thin, a line or a small spot, from its own sides ({@link closeGap}). Works on encoded values, as paint.
 */
export function bridge(mend: BridgeMend, { pixels, fences }: Canvas): Patch {
  const { rect, coverage } = targetField(mend, pixels.shape, bandOf(mend));
  if (isEmpty(rect)) return EMPTY_PATCH;
  const here = pixels.window(rect).raster;
  const allowance = allowanceOn(fences, mend.zone, rect, pixels.shape);
  const hidden = mend.avoid ? maskPixels(mend.avoid, rect) : null;
  const levelled =
    mend.relief && mend.target.shape === 'stroke'
      ? undoRelief(mend.relief, mend.target.points, pixels.window(rect), pixels.shape)
      : null;
  const values = levelled?.values ?? colourFloats(here);
  closeGap({
    values,
    width: rect.width,
    top: fullScale(here.depth),
    error: coverage.map((amount) => (amount > LOST ? Infinity : 0)),
    excluded: exclusionMask(
      allowance,
      hidden && ((i) => hidden[i] === 1 && coverage[i] <= LOST),
      coverage.length,
    ),
    reach: searchRadius(mend),
    seed: seedOf(mend.id),
  });
  const changed = levelled ? coverage.map((amount, i) => Math.max(amount, levelled.coverage[i])) : coverage;
  return { rect, values, coverage: changed };
}
