import type { PictureShape } from '../../raster/raster.ts';
import type { Rect } from '../../raster/rect.ts';
import { isEmpty, uniteRects } from '../../raster/rect.ts';
import { readSource } from '../../source/readSource.ts';
import { sourceReads } from '../../source/sampleSource.ts';
import type { Point } from '../../target/target.ts';
import { footprintRect, targetField } from '../../target/targetField.ts';
import { targetMiddle } from '../../target/targetMiddle.ts';
import type { Canvas } from '../canvas.ts';
import type { CloneMend } from './cloneMend.ts';
import type { Patch } from '../../raster/patch.ts';
import { EMPTY_PATCH } from '../../raster/patch.ts';
import type { Dab } from './dabs.ts';
import { dabsAlong, layDabs } from './dabs.ts';

/** Dabs are laid one by one where the source stays put under the pen, or where the share adds up. */
const isDabbed = (mend: CloneMend): boolean =>
  mend.target.shape === 'stroke' && (mend.laying === 'fixed' || mend.buildUp);

/** The shift and the middle with which one dab is read. */
function dabSource(mend: CloneMend, dab: Dab, start: Point): { source: CloneMend['source']; centre: Point } {
  if (mend.laying === 'along') return { source: mend.source, centre: targetMiddle(mend.target) };
  const { dx, dy } = mend.source;
  return {
    source: { ...mend.source, dx: dx + start[0] - dab.x, dy: dy + start[1] - dab.y },
    centre: [dab.x, dab.y],
  };
}

/** The rectangles a clone looks at: its target and its source. Of a picture without mends it reads both alike. */
export function cloneReads(mend: CloneMend, picture: PictureShape): Rect[] {
  const footprint = footprintRect(mend, picture);
  if (isEmpty(footprint)) return [];
  if (!isDabbed(mend))
    return [footprint, sourceReads(mend.source, targetMiddle(mend.target), footprint, picture)];
  const dabs = dabsAlong(mend);
  const start: Point = [dabs[0].x, dabs[0].y];
  const read = dabs.reduce((all, dab) => {
    const { source, centre } = dabSource(mend, dab, start);
    return uniteRects(all, sourceReads(source, centre, dab.rect, picture));
  }, EMPTY_PATCH.rect);
  return [footprint, read];
}

/**
 * Copies the source straight onto the target, from hard to soft edge. Works on encoded values: what was seen there is
 * laid down here. What lies outside the picture or beyond a fence lays down nothing.
 */
export function clone(mend: CloneMend, { pixels, original, fences }: Canvas): Patch {
  const field = targetField(mend, pixels.shape, 0);
  const { rect } = field;
  if (isEmpty(rect)) return EMPTY_PATCH;
  const from = mend.reads === 'original' ? original : pixels;
  const bounds = { fences, zone: mend.zone };
  if (!isDabbed(mend)) {
    const { planes, there } = readSource(from, mend.source, targetMiddle(mend.target), rect, bounds);
    return {
      rect,
      values: planes,
      coverage: field.coverage.map((amount, i) => (there[i] ? amount : 0)),
    };
  }
  const dabs = dabsAlong(mend);
  const start: Point = [dabs[0].x, dabs[0].y];
  return layDabs(mend, dabs, rect, pixels.window(rect).raster, (dab, area) => {
    const { source, centre } = dabSource(mend, dab, start);
    return readSource(from, source, centre, area, bounds);
  });
}
