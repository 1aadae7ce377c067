/** Where the picture lies on the table: the pixel (x, y) of the picture is in the middle, `scale` screen pixels wide. */
export interface Viewport {
  readonly x: number;
  readonly y: number;
  readonly scale: number;
}

export interface Size {
  readonly width: number;
  readonly height: number;
}

export const LARGEST_SCALE = 32;
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

export const toScreen = (view: Viewport, table: Size, x: number, y: number): [number, number] => [
  (x - view.x) * view.scale + table.width / 2,
  (y - view.y) * view.scale + table.height / 2,
];

export const toPicture = (view: Viewport, table: Size, sx: number, sy: number): [number, number] => [
  (sx - table.width / 2) / view.scale + view.x,
  (sy - table.height / 2) / view.scale + view.y,
];

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
  const [x, y] = toPicture(view, table, sx, sy);
  return { scale, x: x - (sx - table.width / 2) / scale, y: y - (sy - table.height / 2) / scale };
}

/** The level whose pixels are at least as fine as the screen's, among those that are there. */
export function levelFor(scale: number, pixelRatio: number, levels: number, finest: number): number {
  const wanted = Math.floor(Math.log2(1 / (scale * pixelRatio)) + 1e-6);
  return Math.min(levels - 1, Math.max(finest, wanted, 0));
}
