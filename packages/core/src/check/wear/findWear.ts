import type { Mend } from '../../mend/mend.ts';
import { isSourced } from '../../mend/mend.ts';
import { lumaPlane } from '../../raster/float.ts';
import { gaussianBlur } from '../../filter/gaussian.ts';
import type { Pixels } from '../../raster/pixels.ts';
import type { Rect } from '../../raster/rect.ts';
import { intersectRects, isEmpty, moveRect } from '../../raster/rect.ts';
import { pictureRect } from '../../raster/window.ts';
import { targetBounds } from '../../target/targetBounds.ts';
import { fieldOn } from '../../target/targetField.ts';

/** A mend whose texture shows again elsewhere. */
export interface Wear {
  readonly id: string;
  /** How many other mends show the same texture. */
  readonly repeats: number;
  /** Where on it that is, once for each of them: rectangles of the picture. */
  readonly places: readonly Rect[];
}

/** Texture is separated from tone at this scale, in pixels. */
const TEXTURE = 2;
/** Fewer pixels in common tell nothing. */
const LEAST_SHARED = 60;
/** A pixel shows the mend's texture where it is covered so far. */
export const COVERED = 0.5;
/** Correlation of texture from which two places look alike. */
const ALIKE = 0.7;

interface Laid {
  readonly mend: Mend;
  readonly rect: Rect;
  readonly dx: number;
  readonly dy: number;
}

/** Mends that copy from a source as it is; what is turned or scaled looks like no other. */
function copies(mends: readonly Mend[], pixels: Pixels): Laid[] {
  return mends.flatMap((mend) => {
    if (!mend.on || !isSourced(mend) || !mend.source) return [];
    const { dx, dy, mirror, turn = 0, scale = 1 } = mend.source;
    if (mirror || turn !== 0 || scale !== 1) return [];
    const rect = intersectRects(targetBounds(mend.target, mend.margin), pictureRect(pixels.shape));
    return isEmpty(rect) ? [] : [{ mend, rect, dx: Math.round(dx), dy: Math.round(dy) }];
  });
}

/**
 * The rectangles of the mended picture that are compared.
 *
 * @returns in pixels of the upright original, inside the picture
 */
export const wearReads = (mends: readonly Mend[], pixels: Pixels): Rect[] =>
  copies(mends, pixels).map(({ rect }) => rect);

/** What of two mends comes from the same place, as it lies on the first one. */
function shared(one: Laid, other: Laid): Rect {
  return intersectRects(one.rect, moveRect(other.rect, other.dx - one.dx, other.dy - one.dy));
}

/** What a mend shows in a rectangle: luma without its own tone, where it covers it; not a number where it does not. */
function textureOf({ mend }: Laid, pixels: Pixels, rect: Rect): Float32Array {
  const { coverage } = fieldOn(mend, rect);
  const luma = lumaPlane(pixels.window(rect).raster);
  const share = { ...luma, data: coverage.map((covered) => (covered >= COVERED ? 1 : 0)) };
  // What lies around it has no part in its tone.
  const own = gaussianBlur({ ...luma, data: luma.data.map((value, i) => value * share.data[i]) }, TEXTURE);
  const weight = gaussianBlur(share, TEXTURE);
  return luma.data.map((value, i) => (share.data[i] > 0 ? value - own.data[i] / weight.data[i] : NaN));
}

/** How two textures go together where both are known, -1 to 1; 0 where that is hardly anywhere. */
function correlation(a: Float32Array, b: Float32Array): number {
  let [ab, aa, bb, count] = [0, 0, 0, 0];
  for (let i = 0; i < a.length; i++) {
    if (Number.isNaN(a[i]) || Number.isNaN(b[i])) continue;
    ab += a[i] * b[i];
    aa += a[i] * a[i];
    bb += b[i] * b[i];
    count++;
  }
  return count >= LEAST_SHARED && aa > 0 && bb > 0 ? ab / Math.sqrt(aa * bb) : 0;
}

/**
 * Mends that show the same texture as others: a pattern that the eye finds. Mends that take from the same place are
 * compared pixel by pixel on the mended picture, so that what a membrane or a later mend made different does not count.
 *
 * @param pixels the mended picture, at hand where {@link wearReads} says
 * @returns those with at least one repetition, the most often repeated first
 */
export function findWear(mends: readonly Mend[], pixels: Pixels): Wear[] {
  const laid = copies(mends, pixels);
  const worn = new Map<string, Rect[]>();
  const note = (id: string, place: Rect): void => {
    const others = worn.get(id);
    if (others) others.push(place);
    else worn.set(id, [place]);
  };
  laid.forEach((one, k) => {
    for (const other of laid.slice(k + 1)) {
      const here = shared(one, other);
      if (isEmpty(here) || here.width * here.height < LEAST_SHARED) continue;
      const there = moveRect(here, one.dx - other.dx, one.dy - other.dy);
      const alike = correlation(textureOf(one, pixels, here), textureOf(other, pixels, there));
      if (alike < ALIKE) continue;
      note(one.mend.id, here);
      note(other.mend.id, there);
    }
  });
  return [...worn]
    .map(([id, places]) => ({ id, repeats: places.length, places }))
    .sort((a, b) => b.repeats - a.repeats);
}
