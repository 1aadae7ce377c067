import type { LumaPlane } from '../examine/ground/lumaLevels.ts';
import { createLumaPlane, halveLuma, lumaOf } from '../examine/ground/lumaLevels.ts';
import type { Raster } from '../raster/raster.ts';
import type { Orientation, Placement } from './sensor.ts';
import { levelPlane } from './levelPlane.ts';
import { isTurned } from './sensor.ts';
import type { PlanePlace } from './rimPool.ts';

/** A frame's luma on a level of its sensor. */
export interface SensorPlane {
  /** 0 for the sensor's own pixels, 1 for half as many across, and so on. */
  readonly level: number;
  readonly place: PlanePlace;
  readonly plane: LumaPlane;
}

/** A picture that is this much smaller than a level still counts as being on it. */
const SCALE_SLACK = 0.03;

/** A plane of an upright picture as the sensor lay. */
function levelled(plane: LumaPlane, orientation: Orientation): LumaPlane {
  if (orientation === 1) return plane;
  const { width, height } = plane;
  const level = isTurned(orientation) ? createLumaPlane(height, width) : createLumaPlane(width, height);
  levelPlane(plane.data, plane, orientation, level.data);
  return level;
}

/** A plane at other sides, at most half as large or a little larger: straight between the nearest four. */
function resampled(plane: LumaPlane, width: number, height: number): LumaPlane {
  if (plane.width === width && plane.height === height) return plane;
  const out = createLumaPlane(width, height);
  const [stepX, stepY] = [plane.width / width, plane.height / height];
  for (let y = 0; y < height; y++) {
    const sy = Math.min(plane.height - 1, Math.max(0, (y + 0.5) * stepY - 0.5));
    const y0 = Math.floor(sy);
    const upper = y0 * plane.width;
    const lower = Math.min(plane.height - 1, y0 + 1) * plane.width;
    for (let x = 0; x < width; x++) {
      const sx = Math.min(plane.width - 1, Math.max(0, (x + 0.5) * stepX - 0.5));
      const x0 = Math.floor(sx);
      const x1 = Math.min(plane.width - 1, x0 + 1);
      const [fx, fy] = [sx - x0, sy - y0];
      const above = plane.data[upper + x0] * (1 - fx) + plane.data[upper + x1] * fx;
      const below = plane.data[lower + x0] * (1 - fx) + plane.data[lower + x1] * fx;
      out.data[y * width + x] = Math.round(above * (1 - fy) + below * fy);
    }
  }
  return out;
}

/** The finest level of a sensor that a frame of this scale fills. */
export const levelOf = ({ scale }: Pick<Placement, 'scale'>): number =>
  Math.max(0, Math.ceil(-Math.log2(scale) - SCALE_SLACK));

/** Luma of a frame as its sensor lay, on the finest level that it fills, or on a coarser one that is asked for. */
export function sensorPlane(raster: Raster, placement: Placement, finest: number): SensorPlane {
  let plane = levelled(lumaOf(raster), placement.orientation);
  const level = Math.max(finest, levelOf(placement));
  const step = 2 ** level;
  // A picture that is much finer than the level is halved first, so that nothing is skipped.
  for (let scale = placement.scale * step; scale >= 2; scale /= 2) plane = halveLuma(plane);
  const even = (at: number): number => 2 * Math.round(at / step / 2);
  const place = { left: even(placement.left), top: even(placement.top) };
  const [width, height] = isTurned(placement.orientation)
    ? [placement.height, placement.width]
    : [placement.width, placement.height];
  const sides = [width, height].map((side) => Math.round(side / placement.scale / step));
  return { level, place, plane: resampled(plane, sides[0], sides[1]) };
}
