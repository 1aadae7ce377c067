export { lumaPlane } from './float.ts';
export type { Patch } from './patch.ts';
export { EMPTY_PATCH, colourFloats, layPatch } from './patch.ts';
export type { Pixels } from './pixels.ts';
export { pixelsOf } from './pixels.ts';
export type { LevelSize } from './pyramid.ts';
export { TILE_SIZE, halveRaster, pyramidLevels } from './pyramid.ts';
export type { Depth, PictureShape, Plane, Raster } from './raster.ts';
export {
  bytesPerSample,
  cloneRaster,
  copyRaster,
  createRaster,
  createSharedRaster,
  fullScale,
  rasterOver,
  sharedCopy,
  sharedRaster,
  viewRaster,
} from './raster.ts';
export type { Rect } from './rect.ts';
export { growRect, intersectRects, isEmpty, rectHolds, rectsMeet, uniteRects } from './rect.ts';
export type { Window } from './window.ts';
export { narrowWindow, pictureRect, wholeWindow } from './window.ts';
