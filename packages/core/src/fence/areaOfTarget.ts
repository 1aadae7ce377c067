import type { PictureShape } from '../raster/raster.ts';
import { intersectRects, isEmpty } from '../raster/rect.ts';
import { pictureRect } from '../raster/window.ts';
import { polygonPixels } from '../target/polygonPixels.ts';
import type { SpanRows } from '../target/spanRows.ts';
import { spansOfMask, spansOfPixels } from '../target/spanRows.ts';
import type { StrokeTarget, Target } from '../target/target.ts';
import { targetBounds } from '../target/targetBounds.ts';
import { targetDistance } from '../target/targetDistance.ts';
import { combineAreas, wholeArea } from './combineAreas.ts';

type Sides = Pick<PictureShape, 'width' | 'height'>;

const NOTHING: SpanRows = { top: 0, rows: [] };

/**
 * The pixels whose centres a drawn shape holds, inside the picture.
 *
 * @param target in pixels of the upright original
 * @returns spans of whole pixels, row by row
 */
export function areaOfTarget(target: Target, picture: Sides): SpanRows {
  switch (target.shape) {
    case 'mask':
      return combineAreas(spansOfMask(target), wholeArea(picture), 'intersect');
    case 'stroke':
      return strokeArea(target, picture);
    case 'outline': {
      const rect = onPicture(target, picture);
      return isEmpty(rect) ? NOTHING : spansOfPixels(polygonPixels(target.points, rect), rect);
    }
    case 'disc':
      return nearArea(target, picture);
  }
}

const onPicture = (target: Target, picture: Sides) =>
  intersectRects(targetBounds(target, 0), pictureRect({ ...picture, depth: 8, channels: 3 }));

function nearArea(target: Target, picture: Sides): SpanRows {
  const rect = onPicture(target, picture);
  if (isEmpty(rect)) return NOTHING;
  const distance = targetDistance(target, rect);
  const inside = new Uint8Array(distance.length);
  for (let i = 0; i < inside.length; i++) if (distance[i] <= 0) inside[i] = 1;
  return spansOfPixels(inside, rect);
}

/** A stroke piece by piece: its own box may be the whole picture, those of its pieces are small. */
function strokeArea({ points, width, pressure }: StrokeTarget, picture: Sides): SpanRows {
  if (points.length === 1)
    return nearArea({ shape: 'stroke', points, width, ...(pressure ? { pressure } : {}) }, picture);
  let pieces = points.slice(1).map((point, k) =>
    nearArea(
      {
        shape: 'stroke',
        points: [points[k], point],
        width,
        ...(pressure ? { pressure: pressure.slice(k, k + 2) } : {}),
      },
      picture,
    ),
  );
  while (pieces.length > 1) {
    const next: SpanRows[] = [];
    for (let k = 0; k < pieces.length; k += 2)
      next.push(k + 1 < pieces.length ? combineAreas(pieces[k], pieces[k + 1], 'add') : pieces[k]);
    pieces = next;
  }
  return pieces[0];
}
