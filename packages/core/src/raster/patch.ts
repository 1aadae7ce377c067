import { kernels, layOut } from '../kernels/kernels.ts';
import type { Raster } from './raster.ts';
import { bytesPerSample, colourChannels, viewRaster } from './raster.ts';
import type { Rect } from './rect.ts';
import { intersectRects, isEmpty, rectHolds } from './rect.ts';
import type { Window } from './window.ts';
import { windowRect } from './window.ts';

/** What a mend lays down: new values for a rectangle, and how much of each pixel they take. */
export interface Patch {
  readonly rect: Rect;
  /** New encoded values in code values (0 to 255 or 65535), not rounded, one array for each colour channel. */
  readonly values: readonly Float32Array[];
  /** 0 to 1; where it is 0 not one value changes. */
  readonly coverage: Float32Array;
}

export const EMPTY_PATCH: Patch = {
  rect: { left: 0, top: 0, width: 0, height: 0 },
  values: [],
  coverage: new Float32Array(0),
};

/**
 * Lays a patch onto a window that holds its rectangle, in place. This is the one place where values are rounded.
 *
 * @param patch values in codes, on a rectangle in pixels of the upright original
 */
export function layPatch(patch: Patch, window: Window): void {
  const { raster } = window;
  // What lies beyond the window is covered by nothing.
  const here = windowRect(window);
  const inside = rectHolds(here, patch.rect) ? patch : cropPatch(patch, intersectRects(patch.rect, here));
  const { rect, values, coverage } = inside;
  if (values.length === 0 || isEmpty(rect)) return;
  const { width, height } = rect;
  const part = viewRaster(raster, { ...rect, left: rect.left - window.left, top: rect.top - window.top });
  const isBytes = raster.depth === 8;
  const bytes = width * height * bytesPerSample(raster.depth);
  const [samples, cover, ...laid] = layOut([bytes, coverage, ...values]);
  const { memory, layBytes, layShorts } = kernels();
  const codes = new (isBytes ? Uint8Array : Uint16Array)(memory.buffer, samples, width * height);
  laid.forEach((value, channel) => {
    const plane = part.planes[channel];
    for (let y = 0; y < height; y++)
      codes.set(plane.subarray(y * part.stride, y * part.stride + width), y * width);
    (isBytes ? layBytes : layShorts)(samples, value, cover, width * height);
    for (let y = 0; y < height; y++) plane.set(codes.subarray(y * width, (y + 1) * width), y * part.stride);
  });
}

/** The colour planes of a raster: all but alpha. */
export const colourPlanes = (raster: Raster): Raster['planes'] =>
  raster.planes.slice(0, colourChannels(raster.planes.length));

/**
 * The colour planes of a raster as floats, in code values, row after row.
 *
 * @returns a plane of `width * height` values for each colour channel; alpha is left out
 */
export const colourFloats = (raster: Raster): Float32Array[] =>
  colourPlanes(raster).map((plane) => {
    const out = new Float32Array(raster.width * raster.height);
    for (let y = 0; y < raster.height; y++)
      for (let x = 0; x < raster.width; x++) out[y * raster.width + x] = plane[y * raster.stride + x];
    return out;
  });

/** The part of a patch that lies on a rectangle inside of it. */
export function cropPatch({ rect, values, coverage }: Patch, wanted: Rect): Patch {
  const crop = (data: Float32Array): Float32Array => {
    const out = new Float32Array(wanted.width * wanted.height);
    for (let y = 0; y < wanted.height; y++) {
      const from = (wanted.top + y - rect.top) * rect.width + wanted.left - rect.left;
      out.set(data.subarray(from, from + wanted.width), y * wanted.width);
    }
    return out;
  };
  return { rect: wanted, values: values.map(crop), coverage: crop(coverage) };
}
