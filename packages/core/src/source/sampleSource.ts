import { colourPlanes } from '../raster/patch.ts';
import type { Pixels } from '../raster/pixels.ts';
import type { PictureShape } from '../raster/raster.ts';
import type { Rect } from '../raster/rect.ts';
import { intersectRects, isEmpty } from '../raster/rect.ts';
import { pictureRect } from '../raster/window.ts';
import type { Window } from '../raster/window.ts';
import { lanczos, lanczosShift } from '../resample/lanczos.ts';
import type { Point } from '../target/target.ts';
import type { Source } from './source.ts';
import { isPlainShift, isShift } from './source.ts';
import { inverseWarp } from './warpPiece.ts';

/** A source read onto the pixels of its target. */
export interface SampledSource {
  /** Encoded values in code values, one array for each colour channel, row after row of the target's rectangle. */
  readonly planes: readonly Float32Array[];
  /** 1 where the source lies inside the picture, and where it may be read. */
  readonly there: Uint8Array;
}

/** The linear part of the way from a target's pixel to its source's: `[xx, xy, yx, yy]`. */
function matrixOf({ mirror, turn = 0, scale = 1 }: Source): readonly [number, number, number, number] {
  // The copied piece is mirrored, turned and enlarged; to read it the way back is taken.
  const [cos, sin] = [Math.cos(turn) / scale, Math.sin(turn) / scale];
  const flip = mirror ? -1 : 1;
  return [flip * cos, flip * sin, -sin, cos];
}

/** The way from a place on the target to the one it is taken from; null where there is none. */
function wayTo(source: Source, [middleX, middleY]: Point): (x: number, y: number) => Point | null {
  const [xx, xy, yx, yy] = matrixOf(source);
  const unpull = source.warp ? inverseWarp(source.warp) : null;
  return (x, y) => {
    const own = unpull ? unpull(x - middleX, y - middleY) : ([x - middleX, y - middleY] as const);
    if (!own) return null;
    const [px, py] = own;
    return [middleX + source.dx + xx * px + xy * py, middleY + source.dy + yx * px + yy * py];
  };
}

/** Reach of the resampling kernel in source pixels. */
const LOBES = 3;

/** The rectangle of the picture that is read to sample a source onto `rect`. */
export function sourceReads(source: Source, centre: Point, rect: Rect, picture: PictureShape): Rect {
  const way = wayTo(source, centre);
  const corners = [0, 1].flatMap((right) =>
    [0, 1].map((down) => way(rect.left + right * rect.width, rect.top + down * rect.height)),
  );
  // What is pulled beyond the horizon may come from anywhere.
  if (!corners.every((corner) => corner !== null)) return pictureRect(picture);
  const reach = isPlainShift(source) ? 0 : LOBES * Math.max(1, 1 / (source.scale ?? 1)) + 1;
  const left = Math.floor(Math.min(...corners.map(([x]) => x)) - reach);
  const top = Math.floor(Math.min(...corners.map(([, y]) => y)) - reach);
  const right = Math.ceil(Math.max(...corners.map(([x]) => x)) + reach);
  const bottom = Math.ceil(Math.max(...corners.map(([, y]) => y)) + reach);
  return intersectRects({ left, top, width: right - left, height: bottom - top }, pictureRect(picture));
}

/** Marks the pixels of `rect` whose source, moved and nothing else, lies inside the picture. */
function markMoved({ dx, dy }: Source, rect: Rect, picture: PictureShape, there: Uint8Array): void {
  const [x, y] = [rect.left + dx + 0.5, rect.top + dy + 0.5];
  for (let row = 0, i = 0; row < rect.height; row++) {
    const isRowIn = y + row >= 0 && y + row < picture.height;
    for (let column = 0; column < rect.width; column++, i++)
      if (isRowIn && x + column >= 0 && x + column < picture.width) there[i] = 1;
  }
}

/** Reads a piece that is moved and nothing else: copied by whole pixels, resampled with the same weights for all between. */
function readMoved(
  source: Source,
  { raster, left, top }: Window,
  there: Uint8Array,
  rect: Rect,
): Float32Array[] {
  const from = colourPlanes(raster);
  const [x, y] = [rect.left + source.dx - left, rect.top + source.dy - top];
  if (!isPlainShift(source)) {
    const area = { x: x + 0.5, y: y + 0.5, columns: rect.width, rows: rect.height };
    const planes = from.map((plane) => lanczosShift(raster, plane, area));
    for (const plane of planes) for (let i = 0; i < plane.length; i++) if (!there[i]) plane[i] = 0;
    return planes;
  }
  return from.map((plane) => {
    const out = new Float32Array(there.length);
    for (let row = 0, i = 0; row < rect.height; row++)
      for (let column = 0, at = (y + row) * raster.stride + x; column < rect.width; column++, i++, at++)
        if (there[i]) out[i] = plane[at];
    return out;
  });
}

/**
 * Reads a source onto the pixels of `rect`. Whole-pixel shifts copy exactly; all others are resampled by a Lanczos
 * kernel of three lobes, widened where the source is made smaller.
 *
 * @param centre the middle of the target, which mirroring, turning and enlarging leave in place
 */
export function sampleSource(pixels: Pixels, source: Source, centre: Point, rect: Rect): SampledSource {
  const size = rect.width * rect.height;
  const there = new Uint8Array(size);
  const reads = sourceReads(source, centre, rect, pixels.shape);
  const channels = pixels.shape.channels >= 3 ? 3 : 1;
  const planes = Array.from({ length: channels }, () => new Float32Array(size));
  if (isEmpty(reads)) return { planes, there };
  const window = pixels.window(reads);
  const { raster, left, top } = window;
  if (isShift(source)) {
    markMoved(source, rect, pixels.shape, there);
    return { planes: readMoved(source, window, there, rect), there };
  }
  const way = wayTo(source, centre);
  const from = colourPlanes(raster);
  const widen = Math.max(1, 1 / (source.scale ?? 1));
  for (let row = 0, i = 0; row < rect.height; row++) {
    for (let column = 0; column < rect.width; column++, i++) {
      const place = way(rect.left + column + 0.5, rect.top + row + 0.5);
      if (!place) continue;
      const [x, y] = place;
      if (x < 0 || y < 0 || x >= pixels.shape.width || y >= pixels.shape.height) continue;
      there[i] = 1;
      lanczos(raster, from, x - left, y - top, widen, planes, i);
    }
  }
  return { planes, there };
}

/** Which pixel of the picture each pixel of `rect` is taken from, as indices into the rectangle `area`. */
export function sourcePlaces(
  source: Source,
  centre: Point,
  rect: Rect,
  picture: PictureShape,
): { area: Rect; places: Int32Array } {
  const area = sourceReads(source, centre, rect, picture);
  const places = new Int32Array(rect.width * rect.height);
  const way = wayTo(source, centre);
  for (let row = 0, i = 0; row < rect.height; row++) {
    for (let column = 0; column < rect.width; column++, i++) {
      const [fromX, fromY] = way(rect.left + column + 0.5, rect.top + row + 0.5) ?? [area.left, area.top];
      const [x, y] = [Math.floor(fromX) - area.left, Math.floor(fromY) - area.top];
      places[i] =
        Math.min(area.height - 1, Math.max(0, y)) * area.width + Math.min(area.width - 1, Math.max(0, x));
    }
  }
  return { area, places };
}
