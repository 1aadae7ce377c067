import type { Raster } from '../raster/raster.ts';
import { colourChannels, fullScale } from '../raster/raster.ts';
import type { Rect } from '../raster/rect.ts';
import type { Window } from '../raster/window.ts';

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

/** Lays a patch onto a window that holds its rectangle, in place. This is the one place where values are rounded. */
export function layPatch(patch: Patch, window: Window): void {
  const { rect, coverage } = patch;
  const { raster } = window;
  const top = fullScale(raster.depth);
  const firstX = rect.left - window.left;
  const firstY = rect.top - window.top;
  for (let channel = 0; channel < patch.values.length; channel++) {
    const values = patch.values[channel];
    const plane = raster.planes[channel];
    for (let y = 0; y < rect.height; y++) {
      const from = y * rect.width;
      const onto = (firstY + y) * raster.stride + firstX;
      for (let x = 0; x < rect.width; x++) {
        const amount = coverage[from + x];
        if (amount === 0) continue;
        const old = plane[onto + x];
        const mended = Math.round(old + amount * (values[from + x] - old));
        plane[onto + x] = mended < 0 ? 0 : mended > top ? top : mended;
      }
    }
  }
}

/** The colour planes of a raster: all but alpha. */
export const colourPlanes = (raster: Raster): Raster['planes'] =>
  raster.planes.slice(0, colourChannels(raster.planes.length));

/** The colour planes of a raster as floats, in code values, row after row. */
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
