import type { Window } from '../../raster/window.ts';
import { lumaPlane } from '../../raster/float.ts';
import { boxMean } from '../../filter/boxMean.ts';
import { colourChannels, fullScale } from '../../raster/raster.ts';
import type { Point } from '../../target/target.ts';
import { distanceToSet } from '../../target/distanceTransform.ts';
import { signedArea } from '../../target/signedArea.ts';
import { polygonPixels } from '../../target/polygonPixels.ts';

/** What tells one kind of area from another. Encoded values, 0 to 1. */
export interface AreaTraits {
  /** Mean luma inside less that of the ring around it. */
  readonly departure: number;
  /** Fine texture inside over that of the ring; 1 is as rough as around. */
  readonly texture: number;
  /** Mean difference of the three channels' departures from one another. */
  readonly colourShift: number;
  /** 4 pi area over perimeter squared: 1 is a disc, a crack is near 0. */
  readonly roundness: number;
  /** In pixels. */
  readonly area: number;
}

/** The ring around an area begins beyond its soft border and is so wide, in pixels. */
const [RING_FROM, RING_TO] = [3, 14];
/** How far beyond its bounds an area is looked at. */
export const AREA_LOOK = RING_TO + 2;
/** Texture finer than this radius counts. */
const TEXTURE_RADIUS = 2;
/** Where the ring is as calm as this, texture cannot be separated from noise. */
const LEAST_TEXTURE = 0.002;

/** Area of a polygon in pixels, whichever way it runs. */
export const polygonArea = (points: readonly Point[]): number => Math.abs(signedArea(points));

const perimeter = (points: readonly Point[]): number =>
  points.reduce((sum, [x, y], i) => {
    const [nx, ny] = points[(i + 1) % points.length];
    return sum + Math.hypot(nx - x, ny - y);
  }, 0);

/** Mean of a plane over marked pixels. */
function meanOf(value: (i: number) => number, marks: Uint8Array, mark: number): number {
  let [sum, count] = [0, 0];
  marks.forEach((one, i) => {
    if (one !== mark) return;
    sum += value(i);
    count++;
  });
  return count > 0 ? sum / count : 0;
}

/**
 * Looks at an area and the ring around it.
 *
 * @param outline its closed border, in pixels of the whole picture
 * @param window holds its bounds and {@link AREA_LOOK} around them, as far as the picture goes
 */
export function areaTraits(outline: readonly Point[], { left, top, raster }: Window): AreaTraits {
  const { width, height, planes, stride, depth } = raster;
  const inside = polygonPixels(outline, { left, top, width, height });
  const away = distanceToSet(inside, width, height);
  const marks = inside.map((one, i) => {
    if (one === 1) return 1;
    return away[i] >= RING_FROM && away[i] <= RING_TO ? 2 : 0;
  });
  const luma = lumaPlane(raster);
  const smooth = boxMean(luma, TEXTURE_RADIUS).data;
  const rough = (i: number): number => Math.abs(luma.data[i] - smooth[i]);
  const shiftOf = (c: number): number => {
    const value = (i: number): number =>
      planes[c][Math.floor(i / width) * stride + (i % width)] / fullScale(depth);
    return meanOf(value, marks, 1) - meanOf(value, marks, 2);
  };
  const shifts = Array.from({ length: colourChannels(planes.length) }, (_, c) => shiftOf(c));
  const middle = shifts.reduce((sum, shift) => sum + shift, 0) / shifts.length;
  const area = polygonArea(outline);
  return {
    departure: meanOf((i) => luma.data[i], marks, 1) - meanOf((i) => luma.data[i], marks, 2),
    texture: (meanOf(rough, marks, 1) + LEAST_TEXTURE) / (meanOf(rough, marks, 2) + LEAST_TEXTURE),
    colourShift: shifts.reduce((sum, shift) => sum + Math.abs(shift - middle), 0) / shifts.length,
    roundness: (4 * Math.PI * area) / Math.max(1, perimeter(outline) ** 2),
    area,
  };
}
