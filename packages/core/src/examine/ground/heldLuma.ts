import { holding, kernels } from '../../filter/kernels.ts';
import type { Rect } from '../../raster/rect.ts';
import type { LumaPlane } from './lumaLevels.ts';

/** A plane of luma in the memory of the kernels, row after row without gaps, while something is done with it. */
export interface HeldLuma {
  readonly width: number;
  readonly height: number;
  /** Where it begins, in bytes. */
  readonly at: number;
}

/** Holds a plane. @param work must be done when it returns */
export const holdLuma = <T>({ width, height, data }: LumaPlane, work: (plane: HeldLuma) => T): T =>
  holding([data], (at) => work({ width, height, at }));

/** Holds a part of a plane, blurred as by `smoothLuma`. @param work must be done when it returns */
export function holdSmooth<T>(
  plane: LumaPlane,
  { left, top, width, height }: Rect,
  work: (part: HeldLuma) => T,
): T {
  const bytes = 2 * width * height;
  return holding([bytes, bytes, 4 * (width + 2)], (from, onto, down) => {
    const { memory, smooth } = kernels();
    const laid = new Uint16Array(memory.buffer, from, width * height);
    for (let y = 0; y < height; y++) {
      const row = (top + y) * plane.width + left;
      laid.set(plane.data.subarray(row, row + width), y * width);
    }
    smooth(from, onto, width, height, down);
    return work({ width, height, at: onto });
  });
}
