import type { PictureShape, Rect } from '@fennip/core/raster';
import { intersectRects, pyramidLevels } from '@fennip/core/raster';

/** A rectangle of the full-size picture on one of its levels: outwards to whole pixels, and no farther than that is. */
export function onLevel({ left, top, width, height }: Rect, level: number, picture: PictureShape): Rect {
  const unit = 2 ** level;
  const [l, t] = [Math.floor(left / unit), Math.floor(top / unit)];
  const [right, bottom] = [Math.ceil((left + width) / unit), Math.ceil((top + height) / unit)];
  const size = pyramidLevels(picture.width, picture.height)[level];
  return intersectRects(
    { left: l, top: t, width: right - l, height: bottom - t },
    { left: 0, top: 0, ...size },
  );
}
