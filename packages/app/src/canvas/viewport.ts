import type { Framing } from '@fennip/core/finish';

/** Where the picture lies on the table: the pixel (x, y) of the picture is in the middle, `scale` screen pixels wide. */
export interface Viewport {
  readonly x: number;
  readonly y: number;
  readonly scale: number;
}

/** A viewport over a picture that is seen as it is finished: places of the original are seen elsewhere. */
export interface Sight extends Viewport {
  /** None shows the upright original. */
  readonly framing: Pick<Framing, 'toFramed' | 'toOriginal'> | null;
}

export interface Size {
  readonly width: number;
  readonly height: number;
}

const LARGEST_SCALE = 32;
/** Room left around a picture that is shown whole, in screen pixels. */
const FIT_ROOM = 24;

export const fitScale = (picture: Size, table: Size): number =>
  Math.min(
    Math.max(16, table.width - 2 * FIT_ROOM) / picture.width,
    Math.max(16, table.height - 2 * FIT_ROOM) / picture.height,
    LARGEST_SCALE,
  );

export const fitViewport = (picture: Size, table: Size): Viewport => ({
  x: picture.width / 2,
  y: picture.height / 2,
  scale: fitScale(picture, table),
});

/** Where a place of what is seen lies on the screen. */
export const seenToScreen = (view: Viewport, table: Size, x: number, y: number): [number, number] => [
  (x - view.x) * view.scale + table.width / 2,
  (y - view.y) * view.scale + table.height / 2,
];

/** Which place of what is seen lies under a point of the screen. */
export const screenToSeen = (view: Viewport, table: Size, sx: number, sy: number): [number, number] => [
  (sx - table.width / 2) / view.scale + view.x,
  (sy - table.height / 2) / view.scale + view.y,
];

/** Where a place of the upright original lies on the screen. */
export function toScreen(view: Sight, table: Size, x: number, y: number): [number, number] {
  const [seenX, seenY] = view.framing ? view.framing.toFramed(x, y) : [x, y];
  return seenToScreen(view, table, seenX, seenY);
}

/** Which place of the upright original lies under a point of the screen. */
export function toPicture(view: Sight, table: Size, sx: number, sy: number): readonly [number, number] {
  const [x, y] = screenToSeen(view, table, sx, sy);
  return view.framing ? view.framing.toOriginal(x, y) : [x, y];
}

/** Keeps the scale in range and some of the picture in sight. */
export function clampViewport(view: Viewport, picture: Size, table: Size): Viewport {
  const scale = Math.min(LARGEST_SCALE, Math.max(Math.min(fitScale(picture, table), 1) * 0.5, view.scale));
  return {
    scale,
    x: Math.min(picture.width, Math.max(0, view.x)),
    y: Math.min(picture.height, Math.max(0, view.y)),
  };
}

/** Zooms by a factor so that what lies under a point of the screen stays there. */
export function zoomAt(view: Viewport, table: Size, sx: number, sy: number, scale: number): Viewport {
  const [x, y] = screenToSeen(view, table, sx, sy);
  return { scale, x: x - (sx - table.width / 2) / scale, y: y - (sy - table.height / 2) / scale };
}

/** The level whose pixels are at least as fine as the screen's, among those that are there. */
export function levelFor(scale: number, pixelRatio: number, levels: number, finest: number): number {
  const wanted = Math.floor(Math.log2(1 / (scale * pixelRatio)) + 1e-6);
  return Math.min(levels - 1, Math.max(finest, wanted, 0));
}
