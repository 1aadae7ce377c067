import type { Raster } from '@fennip/core/raster';
import { cloneRaster, viewRaster } from '@fennip/core/raster';

/** Cuts a picture into parts of one size that lie side by side, as far as they fit. */
export function cutViews(raster: Raster, width: number, height: number): Raster[] {
  const [across, down] = [Math.floor(raster.width / width), Math.floor(raster.height / height)];
  const [left, top] = [(raster.width - across * width) >> 1, (raster.height - down * height) >> 1];
  return Array.from({ length: across * down }, (_, k) =>
    cloneRaster(
      viewRaster(raster, {
        left: left + (k % across) * width,
        top: top + Math.floor(k / across) * height,
        width,
        height,
      }),
    ),
  );
}
