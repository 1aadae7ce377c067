import { medianOf } from '../../measure/medianOf.ts';
import type { Rect } from '../../raster/rect.ts';
import type { Point } from '../../target/target.ts';
import type { Ends, GuidePlanes, Guiding } from './completionLevel.ts';
import { PATCH } from './completionLevel.ts';
import type { Guide } from './guide.ts';

/** Beside a guide so many pixels of a level are bound to it. */
const BAND = 8;

/** Lays one piece of a guide: the nearest piece tells a place's distance and side. */
function layPiece(
  [ax, ay]: Point,
  [bx, by]: Point,
  index: number,
  planes: GuidePlanes,
  nearest: Float32Array,
  width: number,
  height: number,
): void {
  const [dx, dy] = [bx - ax, by - ay];
  const length = Math.hypot(dx, dy);
  if (length === 0) return;
  const endX = Math.min(width, Math.ceil(Math.max(ax, bx) + BAND));
  const endY = Math.min(height, Math.ceil(Math.max(ay, by) + BAND));
  for (let y = Math.max(0, Math.floor(Math.min(ay, by) - BAND)); y < endY; y++)
    for (let x = Math.max(0, Math.floor(Math.min(ax, bx) - BAND)); x < endX; x++) {
      const [px, py] = [x + 0.5 - ax, y + 0.5 - ay];
      const along = Math.min(1, Math.max(0, (px * dx + py * dy) / (length * length)));
      const away = Math.hypot(px - along * dx, py - along * dy);
      const at = y * width + x;
      if (away > BAND || away >= nearest[at]) continue;
      nearest[at] = away;
      planes.index[at] = index + 1;
      planes.away[at] = Math.sign(dx * py - dy * px) * away;
    }
}

/**
 * How the places of a level lie to guides. Each guide keeps its two sides apart: a place beside it in the loss is
 * filled from places that lie as far from it on the same side where it runs through what is known.
 *
 * @param rect where the loss lies in the picture
 * @param width of the level with its border
 * @returns null where there is no guide
 */
function guidePlanes(
  guides: readonly Guide[],
  rect: Rect,
  halvings: number,
  width: number,
  height: number,
): GuidePlanes | null {
  if (guides.length === 0) return null;
  const planes = { index: new Uint8Array(width * height), away: new Float32Array(width * height) };
  const nearest = new Float32Array(width * height).fill(Infinity);
  const scale = 2 ** -halvings;
  guides.forEach(({ points }, index) => {
    const onLevel = points.map(([x, y]): Point => [
      (x - rect.left) * scale + PATCH,
      (y - rect.top) * scale + PATCH,
    ]);
    for (let i = 1; i < onLevel.length; i++)
      layPiece(onLevel[i - 1], onLevel[i], index, planes, nearest, width, height);
  });
  // A guide that runs on beyond the rectangle says nothing of what stands beside it.
  const end = PATCH + Math.ceil(rect.width * scale);
  for (let row = 0; row < planes.index.length && end < width; row += width)
    planes.index.fill(0, row + end, row + width);
  return planes;
}

/** How far most of a guide lies from the nearest end of the picture, in pixels: so wide is the margin that it sets apart. */
function marginBeside({ points }: Guide, { left, top, width, height }: Rect, ends: Ends): number {
  const away = points.map(([x, y]) =>
    Math.min(
      ends.left ? x - left : Infinity,
      ends.top ? y - top : Infinity,
      ends.right ? left + width - x : Infinity,
      ends.bottom ? top + height - y : Infinity,
    ),
  );
  return medianOf(away);
}

/** What guides say of a loss. @param rect where its planes lie in the picture */
export const guidingOf = (guides: readonly Guide[], rect: Rect, ends: Ends): Guiding => ({
  planesOn: (halvings, width, height) => guidePlanes(guides, rect, halvings, width, height),
  narrowest: Math.min(...guides.map((guide) => marginBeside(guide, rect, ends))),
});
