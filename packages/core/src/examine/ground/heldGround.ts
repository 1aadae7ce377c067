import { holding, kernels } from '../../kernels/kernels.ts';
import type { Depth, Plane, PictureShape, Raster } from '../../raster/raster.ts';
import { colourChannels } from '../../raster/raster.ts';
import type { Window } from '../../raster/window.ts';
import type { HeldLuma } from './heldLuma.ts';
import { layLogLuma, lumaBytes } from './lumaLevels.ts';

/** A picture's own colours in the memory of the kernels: planes of encoded codes without gaps. */
export interface HeldColours {
  /** Where each begins, in bytes: one of a grey picture, otherwise three. */
  readonly channels: readonly number[];
  readonly width: number;
  readonly height: number;
  readonly depth: Depth;
}

/** A part of a picture as it is examined, in the memory of the kernels while something is done with it. */
export interface HeldGround {
  /** The pixel of the picture that its first one is. */
  readonly left: number;
  readonly top: number;
  readonly picture: PictureShape;
  readonly colours: HeldColours;
  /** Its luma and the halvings of that. */
  readonly levels: readonly HeldLuma[];
}

/** Halvings end before a side falls below this. */
const SMALLEST_SIDE = 32;

/** The place that a place beyond an end is the mirror image of. */
function mirrored(at: number, length: number): number {
  const turn = 2 * length;
  const within = ((at % turn) + turn) % turn;
  return within < length ? within : turn - 1 - within;
}

/** How far a part goes on beyond what there is of it, in pixels. */
interface Border {
  readonly left: number;
  readonly top: number;
  readonly right: number;
  readonly bottom: number;
}

/** Where a window ends with its picture it goes on by so many pixels; elsewhere the picture itself does. */
function borderOf({ left, top, raster, picture }: Window, by: number): Border {
  return {
    left: left === 0 ? by : 0,
    top: top === 0 ? by : 0,
    right: left + raster.width === picture.width ? by : 0,
    bottom: top + raster.height === picture.height ? by : 0,
  };
}

/** Lays a plane out with its mirror images around it. */
function layMirrored(plane: Plane, { width, height, stride }: Raster, border: Border, onto: Plane): void {
  const across = border.left + width + border.right;
  const aside = Int32Array.from({ length: border.left + border.right }, (_, k) =>
    k < border.left ? k : width + k,
  );
  const images = aside.map((x) => border.left + mirrored(x - border.left, width));
  for (let y = 0; y < border.top + height + border.bottom; y++) {
    const from = mirrored(y - border.top, height) * stride;
    const row = y * across;
    onto.set(plane.subarray(from, from + width), row + border.left);
    for (let k = 0; k < aside.length; k++) onto[row + aside[k]] = onto[row + images[k]];
  }
}

/** The sizes of a plane and of its halvings. */
function sizesOf(width: number, height: number, most: number): { width: number; height: number }[] {
  const sizes = [{ width, height }];
  while (sizes.length < most) {
    const last = sizes[sizes.length - 1];
    if (Math.min(last.width, last.height) < 2 * SMALLEST_SIDE) break;
    sizes.push({ width: (last.width + 1) >> 1, height: (last.height + 1) >> 1 });
  }
  return sizes;
}

/**
 * Holds a part of a picture: its colours, its luma and the halvings of that, as many as are asked for and its size allows.
 * At the borders of the picture it goes on as its mirror image, so that what lies there can be looked at all around.
 *
 * @param beyond how far it goes on there, in pixels
 * @param work must be done when it returns
 */
export function holdGround<T>(
  window: Window,
  { beyond, levels }: { readonly beyond: number; readonly levels: number },
  work: (ground: HeldGround) => T,
): T {
  const { raster, picture } = window;
  const { depth } = raster;
  const border = borderOf(window, beyond);
  const width = border.left + raster.width + border.right;
  const height = border.top + raster.height + border.bottom;
  const planes = raster.planes.slice(0, colourChannels(raster.planes.length));
  const sizes = sizesOf(width, height, levels);
  const parts = [
    ...planes.map(() => (width * height * depth) / 8),
    ...sizes.map((size) => lumaBytes(size.width, size.height)),
  ];
  return holding(parts, (...places) => {
    const channels = places.slice(0, planes.length);
    const held = sizes.map((size, level): HeldLuma => ({ ...size, at: places[planes.length + level] }));
    const { memory, halve } = kernels();
    const Samples = depth === 16 ? Uint16Array : Uint8Array;
    planes.forEach((plane, c) =>
      layMirrored(plane, raster, border, new Samples(memory.buffer, channels[c], width * height)),
    );
    layLogLuma(channels, depth, held[0].at, width * height);
    for (let level = 1; level < held.length; level++) {
      const from = held[level - 1];
      halve(from.at, held[level].at, from.width, from.height);
    }
    return work({
      left: window.left - border.left,
      top: window.top - border.top,
      picture,
      colours: { channels, width, height, depth },
      levels: held,
    });
  });
}
