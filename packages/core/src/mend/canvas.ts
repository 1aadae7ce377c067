import type { Fence } from '../fence/fence.ts';
import type { Pixels } from '../raster/pixels.ts';

/** What a mend works on. */
export interface Canvas {
  /** The picture with all earlier mends on it. */
  readonly pixels: Pixels;
  /** The picture without any mend. */
  readonly original: Pixels;
  readonly fences: readonly Fence[];
}

/** A canvas with nothing on it yet. */
export const canvasOf = (pixels: Pixels, fences: readonly Fence[] = []): Canvas => ({
  pixels,
  original: pixels,
  fences,
});
