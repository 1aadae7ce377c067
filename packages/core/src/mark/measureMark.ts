import { findLine } from '../mend/auto/findLine.ts';
import { outlineSpot } from '../mend/auto/outlineSpot.ts';
import type { Pixels } from '../raster/pixels.ts';
import type { PictureShape } from '../raster/raster.ts';
import type { Rect } from '../raster/rect.ts';
import { growRect, intersectRects } from '../raster/rect.ts';
import { pictureRect } from '../raster/window.ts';
import { discOutline } from '../target/discOutline.ts';
import type { DiscTarget, OutlineTarget, StrokeTarget } from '../target/target.ts';
import { targetBounds } from '../target/targetBounds.ts';
import { areaKind } from '../examine/areas/areaKind.ts';
import { AREA_LOOK, areaTraits } from '../examine/areas/areaTraits.ts';
import type { Fault } from '../fault/fault.ts';
import { holdGround } from '../examine/ground/heldGround.ts';
import { measureTonalRange } from '../examine/ground/tonalRange.ts';
import type { PictureNature } from '../examine/nature/nature.ts';
import type { ScoredFault } from '../examine/scoredFault.ts';
import { LARGEST_SPECK, SPECK_LEVELS, findSpecks } from '../examine/specks/findSpecks.ts';

/** What a hand marks: a place, a course, or a border. */
export type MarkTarget = DiscTarget | StrokeTarget | OutlineTarget;

/** How far around a click or a stroke it is looked: the largest speck, or a line that strays, and what is around. */
const CLICK_LOOK = 3 * LARGEST_SPECK;
/** A click means a speck when it lies within so many of its radii, or this near in pixels. */
const [WITHIN_RADII, WITHIN_PIXELS] = [1.1, 3];
/** Of those about as sure as the surest, in log-odds, the one whose shape explains most has the right size. */
const AS_SURE = 2.5;
/** Log-odds below which the finder sees nothing at a place. */
const LEAST_SCORE = -6;
/** Rough radii that are tried where the finder sees nothing, in pixels. */
const ROUGH_RADII = [1.5, 2.5, 4, 6, 9, 14, 21, 32, 48];
/** What stands out less is grain, in encoded luma. */
const LEAST_STRENGTH = 0.03;
/** A mark made by hand is no guess. */
const SURE = 1;
const HAND_SOFTNESS = 0.3;

/**
 * The rectangle of the picture that is looked at to measure a mark.
 *
 * @param target in pixels of the upright original
 */
export const markReads = (target: MarkTarget, picture: PictureShape): Rect =>
  intersectRects(
    growRect(targetBounds(target, 0), target.shape === 'outline' ? AREA_LOOK : CLICK_LOOK),
    pictureRect(picture),
  );

/** The speck under a click as the finder measures it; null where it sees none. */
function speckUnder(
  { x, y }: DiscTarget,
  pixels: Pixels,
  rect: Rect,
  nature: PictureNature,
): ScoredFault | null {
  const window = pixels.window(rect);
  // Of the whole picture there may be no more than this.
  const look = measureTonalRange(window.raster, nature);
  const near = holdGround(window, { beyond: LARGEST_SPECK, levels: SPECK_LEVELS }, (ground) =>
    findSpecks(ground, look),
  ).filter(
    (speck) =>
      speck.score >= LEAST_SCORE &&
      Math.hypot(speck.x - x, speck.y - y) <= Math.max(WITHIN_PIXELS, WITHIN_RADII * speck.r),
  );
  const surest = Math.max(...near.map(({ score }) => score));
  return near
    .filter(({ score }) => score >= surest - AS_SURE)
    .reduce<ScoredFault | null>((best, one) => (best && best.fit >= one.fit ? best : one), null);
}

/** Luma at a place less that of what lies around it, by area. */
function departureAt(target: DiscTarget | StrokeTarget, pixels: Pixels): number {
  const points = discOutline(target.shape === 'disc' ? target : middleDisc(target));
  const bounds = targetBounds({ shape: 'outline', points }, AREA_LOOK);
  return areaTraits(points, pixels.window(intersectRects(bounds, pictureRect(pixels.shape)))).departure;
}

/** The disc in the middle of a stroke. */
function middleDisc({ points, width }: StrokeTarget): Pick<DiscTarget, 'x' | 'y' | 'r'> {
  const [x, y] = points[points.length >> 1];
  return { x, y, r: width / 2 };
}

function measureClick(target: DiscTarget, pixels: Pixels, rect: Rect, nature: PictureNature): Fault {
  const speck = speckUnder(target, pixels, rect, nature);
  if (speck) {
    const { kind, polarity, x, y, r, strength, softness } = speck;
    return { kind, polarity, x, y, r, strength, softness, confidence: SURE };
  }
  const { x, y } = target;
  for (const r of ROUGH_RADII) {
    const spot = outlineSpot({ shape: 'disc', x, y, r }, pixels);
    if (!spot) continue;
    const { left, top, width, height, runs } = spot.target;
    const area = runs.reduce((sum, run, i) => sum + (i % 2 === 1 ? run : 0), 0);
    const own: DiscTarget = {
      ...{ shape: 'disc', x: left + width / 2, y: top + height / 2 },
      r: Math.sqrt(area / Math.PI),
    };
    const fault = speckAt(own, pixels);
    if (fault.strength >= LEAST_STRENGTH) return fault;
  }
  return speckAt(target, pixels);
}

/** A speck of a size that was drawn, or measured from its outline. */
function speckAt(target: DiscTarget, pixels: Pixels): Fault {
  const departure = departureAt(target, pixels);
  return {
    ...{ kind: 'speck', polarity: departure > 0 ? 'bright' : 'dark', x: target.x, y: target.y, r: target.r },
    ...{ strength: Math.min(1, Math.abs(departure)), softness: HAND_SOFTNESS, confidence: SURE },
  };
}

function measureStroke(target: StrokeTarget, pixels: Pixels): Fault {
  const line = findLine(target, [], pixels);
  const path = line ? line.veil.points : target.points;
  const width = line ? Math.max(...line.veil.widths) : target.width;
  const departure = departureAt({ shape: 'stroke', points: path, width }, pixels);
  const [x, y] = path[path.length >> 1];
  return {
    ...{ kind: 'scratch', polarity: departure > 0 ? 'bright' : 'dark', x, y, r: width / 2, path },
    ...{ strength: Math.min(1, Math.abs(departure)), softness: HAND_SOFTNESS, confidence: SURE },
  };
}

function measureOutline({ points }: OutlineTarget, pixels: Pixels, rect: Rect): Fault {
  const traits = areaTraits(points, pixels.window(rect));
  const [sumX, sumY] = points.reduce(([sx, sy], [x, y]) => [sx + x, sy + y], [0, 0]);
  return {
    ...{ kind: areaKind(traits), polarity: traits.departure > 0 ? 'bright' : 'dark', outline: points },
    ...{ x: sumX / points.length, y: sumY / points.length, r: Math.sqrt(traits.area / Math.PI) },
    ...{ strength: Math.min(1, Math.abs(traits.departure)), softness: HAND_SOFTNESS, confidence: SURE },
  };
}

/**
 * Measures what a hand has marked, so that it is a fault like any other. A click's size is measured: by the finder
 * where it sees a speck there, else by the pixels that stand out around it; only where nothing does, the drawn size
 * stays. A stroke is laid onto the line under it. An outline is taken as it was drawn; its kind follows from its
 * texture and tone. Works on encoded values.
 *
 * @param target in pixels of the upright original
 * @param pixels encoded values of what {@link markReads} asks for
 */
export function measureMark(target: MarkTarget, pixels: Pixels, nature: PictureNature): Fault {
  const rect = markReads(target, pixels.shape);
  switch (target.shape) {
    case 'disc':
      return measureClick(target, pixels, rect, nature);
    case 'stroke':
      return target.points.length > 1
        ? measureStroke(target, pixels)
        : measureClick(
            { shape: 'disc', x: target.points[0][0], y: target.points[0][1], r: target.width / 2 },
            pixels,
            rect,
            nature,
          );
    case 'outline':
      return measureOutline(target, pixels, rect);
  }
}
