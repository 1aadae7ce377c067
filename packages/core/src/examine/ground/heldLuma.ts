import { holding, kernels } from '../../kernels/kernels.ts';
import type { Rect } from '../../raster/rect.ts';
import type { LumaPlane } from './lumaLevels.ts';
import { lumaBytes } from './lumaLevels.ts';

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

/** The plane itself, where it lies: good until more is laid out. */
export const lumaHeld = ({ width, height, at }: HeldLuma): LumaPlane => ({
  width,
  height,
  data: new Uint16Array(kernels().memory.buffer, at, width * height),
});

/** Holds a part of a plane that is held, blurred as by `smoothLuma`. @param work must be done when it returns */
export function holdSmooth<T>(
  plane: HeldLuma,
  { left, top, width, height }: Rect,
  work: (part: HeldLuma) => T,
): T {
  const isWhole = width === plane.width && height === plane.height;
  const bytes = lumaBytes(width, height);
  return holding([isWhole ? 0 : bytes, bytes, 4 * (width + 2)], (room, onto, down) => {
    const { memory, smooth } = kernels();
    if (!isWhole) {
      const all = lumaHeld(plane).data;
      const laid = new Uint16Array(memory.buffer, room, width * height);
      for (let y = 0; y < height; y++) {
        const row = (top + y) * plane.width + left;
        laid.set(all.subarray(row, row + width), y * width);
      }
    }
    smooth(isWhole ? plane.at : room, onto, width, height, down);
    return work({ width, height, at: onto });
  });
}
