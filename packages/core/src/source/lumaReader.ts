import { colourPlanes } from '../mend/patch.ts';
import { fullScale } from '../raster/raster.ts';
import type { Window } from '../raster/window.ts';

/** Reads encoded luma, 0 to 1, at a pixel of the picture that the window holds. */
export type LumaReader = (x: number, y: number) => number;

/** Luma read a pixel at a time: a search looks at few of the pixels it could. Weights near BT.709, cheap to apply. */
export function lumaReader(window: Window): LumaReader {
  const { left, top, raster } = window;
  const { stride } = raster;
  const scale = 1 / fullScale(raster.depth);
  const [first, second, third] = colourPlanes(raster);
  if (!third) return (x, y) => first[(y - top) * stride + x - left] * scale;
  return (x, y) => {
    const i = (y - top) * stride + x - left;
    return (0.25 * first[i] + 0.625 * second[i] + 0.125 * third[i]) * scale;
  };
}
