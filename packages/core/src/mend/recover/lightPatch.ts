import { sharedTransferTable, SRGB_TRANSFER } from '../../light/transfer.ts';
import { fullScale } from '../../raster/raster.ts';
import type { Window } from '../../raster/window.ts';
import { colourPlanes } from '../../raster/patch.ts';

/** A part of a picture in linear light, at full size or smaller. */
export interface LightPatch {
  /** Upper left corner in pixels of the picture. */
  readonly left: number;
  readonly top: number;
  /** Picture pixels across one sample. */
  readonly scale: number;
  readonly width: number;
  readonly height: number;
  /** Linear light 0 to 1, one array for each colour channel. */
  readonly planes: readonly Float32Array[];
  /** 0 where a sample says nothing: clipped, or on another fault. */
  readonly known: Uint8Array;
}

/** From this share of full scale up a value may have been cut off. */
const CLIPPED = 0.995;

/** Reads a window as light. A sample clipped in any channel is not known. */
export function lightPatchOf({ left, top, raster, picture }: Window): LightPatch {
  const { width, height, stride, depth } = raster;
  const clip = CLIPPED * fullScale(depth);
  const known = new Uint8Array(width * height).fill(1);
  const planes = colourPlanes(raster).map((plane, c) => {
    const { light } = sharedTransferTable(picture.transfer?.[c] ?? SRGB_TRANSFER, fullScale(depth));
    const out = new Float32Array(width * height);
    for (let y = 0, i = 0; y < height; y++) {
      const row = y * stride;
      for (let x = 0; x < width; x++, i++) {
        const code = plane[row + x];
        out[i] = light[code];
        if (code >= clip) known[i] = 0;
      }
    }
    return out;
  });
  return { left, top, scale: 1, width, height, planes, known };
}

/** Means of two by two samples; an odd last row or column is left out. A mean is known where all four are. */
function halveLight(patch: LightPatch): LightPatch {
  const { width, height, planes, known } = patch;
  const [w, h] = [width >> 1, height >> 1];
  const halved = planes.map((plane) => {
    const out = new Float32Array(w * h);
    for (let y = 0, onto = 0; y < h; y++)
      for (let x = 0, i = 2 * y * width; x < w; x++, i += 2)
        out[onto++] = 0.25 * (plane[i] + plane[i + 1] + plane[i + width] + plane[i + width + 1]);
    return out;
  });
  const all = new Uint8Array(w * h);
  for (let y = 0, onto = 0; y < h; y++)
    for (let x = 0, i = 2 * y * width; x < w; x++, i += 2)
      all[onto++] = known[i] & known[i + 1] & known[i + width] & known[i + width + 1];
  return { ...patch, scale: patch.scale * 2, width: w, height: h, planes: halved, known: all };
}

/** A patch whose sides fall below this is not halved. */
const SMALLEST_SIDE = 24;

/** Halves a patch until a radius, in pixels of the picture, is at most so many samples. */
export function shrinkLight(patch: LightPatch, r: number, samples: number): LightPatch {
  let small = patch;
  while (r / small.scale > samples && Math.min(small.width, small.height) >= SMALLEST_SIDE)
    small = halveLight(small);
  return small;
}

/** One channel: the mean of all. Dimming alike in all channels shows in it with the least noise. */
export function greyLight(patch: LightPatch): LightPatch {
  const { planes } = patch;
  if (planes.length === 1) return patch;
  const sum = new Float64Array(planes[0]);
  for (const plane of planes.slice(1)) for (let i = 0; i < sum.length; i++) sum[i] += plane[i];
  const mean = new Float32Array(sum.length);
  for (let i = 0; i < sum.length; i++) mean[i] = sum[i] / planes.length;
  return { ...patch, planes: [mean] };
}
