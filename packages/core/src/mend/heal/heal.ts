import type { Pixels } from '../../raster/pixels.ts';
import type { Raster } from '../../raster/raster.ts';
import { fullScale } from '../../raster/raster.ts';
import type { Rect } from '../../raster/rect.ts';
import { growRect, intersectRects, isEmpty, moveRect } from '../../raster/rect.ts';
import { pictureRect } from '../../raster/window.ts';
import type { TargetField } from '../../target/targetField.ts';
import { footprintRect, targetField } from '../../target/targetField.ts';
import type { PictureShape } from '../../raster/raster.ts';
import type { HealMend, Shift } from '../mend.ts';
import type { Patch } from '../patch.ts';
import { EMPTY_PATCH, colourPlanes } from '../patch.ts';
import { membrane } from './membrane.ts';
import { robustRingWeights } from './robustRing.ts';

/** Width in pixels of the band of surroundings that gives tone and colour. */
export const RING = 4;
/** Two codes of 255: a spread below this is the rounding and grain of any picture. */
const LEAST_SPREAD = 2 / 255;

const NO_SHIFT: Shift = { dx: 0, dy: 0 };

/** The rectangles a heal looks at: the target with its ring, and the same at the source. */
export function healReads(mend: HealMend, picture: PictureShape): Rect[] {
  const footprint = footprintRect(mend, picture);
  if (isEmpty(footprint)) return [];
  const ring = intersectRects(growRect(footprint, RING), pictureRect(picture));
  if (!mend.source) return [ring];
  return [ring, intersectRects(moveRect(ring, mend.source.dx, mend.source.dy), pictureRect(picture))];
}

/** What picture and source say about each pixel of the field. */
interface Meeting {
  /** Source value, zero where there is no source; for each colour channel. */
  readonly source: Float32Array[];
  /** Picture minus source; for each colour channel. */
  readonly difference: Float32Array[];
  /** 1 where the source lies inside the picture. */
  readonly there: Uint8Array;
}

function meet(field: TargetField, pixels: Pixels, shift: Shift | null): Meeting {
  const { rect } = field;
  const size = rect.width * rect.height;
  const here = pixels.window(rect);
  const planes = colourPlanes(here.raster);
  const source = planes.map(() => new Float32Array(size));
  const difference = planes.map(() => new Float32Array(size));
  const there = new Uint8Array(size);
  const away = moveRect(rect, (shift ?? NO_SHIFT).dx, (shift ?? NO_SHIFT).dy);
  const found = intersectRects(away, pictureRect(pixels.shape));
  if (isEmpty(found)) return { source, difference, there };
  const from = pixels.window(found);
  const skipX = found.left - away.left;
  const skipY = found.top - away.top;
  for (let y = 0; y < found.height; y++) {
    const row = (y + skipY) * rect.width + skipX;
    there.fill(1, row, row + found.width);
    for (let c = 0; c < planes.length; c++) {
      const target = planes[c];
      const sourcePlane = from.raster.planes[c];
      const targetRow = (y + skipY) * here.raster.stride + skipX;
      const sourceRow = y * from.raster.stride;
      for (let x = 0; x < found.width; x++) {
        // Without a source the membrane alone is laid down: the source reads as zero.
        const value = shift ? sourcePlane[sourceRow + x] : 0;
        source[c][row + x] = value;
        difference[c][row + x] = target[targetRow + x] - value;
      }
    }
  }
  return { source, difference, there };
}

/** Weight of every pixel of the field for the membrane: the ring, less what belongs to another surface. */
function ringWeights(field: TargetField, meeting: Meeting, depth: Raster['depth']): Float32Array {
  const { rect, coverage } = field;
  const ring: number[] = [];
  for (let i = 0; i < coverage.length; i++) if (coverage[i] === 0 && meeting.there[i]) ring.push(i);
  const x = Float32Array.from(ring, (i) => i % rect.width);
  const y = Float32Array.from(ring, (i) => Math.floor(i / rect.width));
  const difference = Float32Array.from(
    ring,
    (i) => meeting.difference.reduce((sum, channel) => sum + channel[i], 0) / meeting.difference.length,
  );
  const robust = robustRingWeights({ x, y, difference }, LEAST_SPREAD * fullScale(depth));
  const weight = new Float32Array(coverage.length);
  ring.forEach((i, k) => {
    weight[i] = robust[k];
  });
  return weight;
}

/**
 * Heals a target: the source's texture, raised or lowered by a smooth membrane so that it meets the surroundings.
 * Works on encoded values, because what is laid down is paint and steps must be even to the eye. Ring samples that
 * belong to another surface are left out, so that nothing bleeds in from there.
 * (Perez, Gangnet, Blake 2003, Poisson image editing.)
 */
export function heal(mend: HealMend, pixels: Pixels): Patch {
  const field = targetField(mend, pixels.shape, RING);
  if (isEmpty(field.rect)) return EMPTY_PATCH;
  const meeting = meet(field, pixels, mend.source);
  const weight = ringWeights(field, meeting, pixels.shape.depth);
  const { width, height } = field.rect;
  const surface = membrane(meeting.difference, weight, width, height);
  const coverage = field.coverage.map((amount, i) => (meeting.there[i] ? amount * mend.share : 0));
  for (let c = 0; c < surface.length; c++)
    for (let i = 0; i < coverage.length; i++) surface[c][i] += meeting.source[c][i];
  return { rect: field.rect, values: surface, coverage };
}
