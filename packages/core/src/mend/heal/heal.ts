import { columnOf } from '../../measure/columnOf.ts';
import { allowanceOn } from '../../fence/allowance.ts';
import { reviveTexture } from '../../grain/reviveTexture.ts';
import type { PictureShape, Raster } from '../../raster/raster.ts';
import { fullScale } from '../../raster/raster.ts';
import type { Rect } from '../../raster/rect.ts';
import { growRect, intersectRects, isEmpty } from '../../raster/rect.ts';
import { pictureRect } from '../../raster/window.ts';
import type { SampledSource } from '../../source/sampleSource.ts';
import { readSource } from '../../source/readSource.ts';
import { sourceReads } from '../../source/sampleSource.ts';
import type { TargetField } from '../../target/targetField.ts';
import { footprintRect, targetField } from '../../target/targetField.ts';
import { targetMiddle } from '../../target/targetMiddle.ts';
import type { Canvas } from '../canvas.ts';
import type { HealMend } from './healMend.ts';
import type { Patch } from '../../raster/patch.ts';
import { EMPTY_PATCH, colourPlanes } from '../../raster/patch.ts';
import { membrane } from './membrane.ts';
import { robustRingWeights } from './robustRing.ts';

/** Width in pixels of the band of surroundings that gives tone and colour. */
export const RING = 4;
/** Two codes of 255: a spread below this is the rounding and grain of any picture. */
const LEAST_SPREAD = 2 / 255;

/** The rectangles a heal looks at: the target with its ring, and the same at the source. */
export function healReads(
  mend: Pick<HealMend, 'target' | 'margin' | 'edge' | 'source'>,
  picture: PictureShape,
): Rect[] {
  const footprint = footprintRect(mend, picture);
  if (isEmpty(footprint)) return [];
  const ring = intersectRects(growRect(footprint, RING), pictureRect(picture));
  if (!mend.source) return [ring];
  return [ring, sourceReads(mend.source, targetMiddle(mend.target), ring, picture)];
}

/** What is healed: where, on what, from what. */
export interface HealTask {
  /** The pixels that may change and the ring around them. */
  readonly field: Pick<TargetField, 'rect' | 'coverage'>;
  /** The picture on the field's rectangle. */
  readonly here: Raster;
  /** The source on the same rectangle; null lets the surroundings alone be carried in. */
  readonly source: SampledSource | null;
  /** What fences allow on the same rectangle; null allows all. */
  readonly allowance: Float32Array | null;
}

/** Picture minus source, for each colour channel. */
function differences({ field: { rect }, here, source }: HealTask): Float32Array[] {
  return colourPlanes(here).map((plane, c) => {
    const difference = new Float32Array(rect.width * rect.height);
    for (let y = 0, i = 0; y < rect.height; y++)
      for (let x = 0; x < rect.width; x++, i++)
        difference[i] = plane[y * here.stride + x] - (source ? source.planes[c][i] : 0);
    return difference;
  });
}

/** Weight of every pixel of the field for the membrane: the ring, less what belongs to another surface. */
function ringWeights(task: HealTask, difference: readonly Float32Array[]): Float32Array {
  const { rect, coverage } = task.field;
  const ring: number[] = [];
  for (let i = 0; i < coverage.length; i++) {
    const isKnown = !task.source || task.source.there[i] === 1;
    const isAllowed = !task.allowance || task.allowance[i] === 1;
    if (coverage[i] === 0 && isKnown && isAllowed) ring.push(i);
  }
  const samples = {
    x: columnOf(Float32Array, ring, (i) => i % rect.width),
    y: columnOf(Float32Array, ring, (i) => Math.floor(i / rect.width)),
    difference: columnOf(
      Float32Array,
      ring,
      (i) => difference.reduce((sum, channel) => sum + channel[i], 0) / difference.length,
    ),
  };
  const robust = robustRingWeights(samples, LEAST_SPREAD * fullScale(task.here.depth));
  const weight = new Float32Array(coverage.length);
  ring.forEach((i, k) => {
    weight[i] = robust[k];
  });
  return weight;
}

/** Gives what was carried in from around the grain of the ring; the seed is the place, so that it stays the same. */
function grainFrom(
  { field: { rect, coverage }, here }: HealTask,
  surface: Float32Array[],
  ring: Float32Array,
): void {
  const known = columnOf(Uint8Array, ring, (weight) => (weight > 0.2 ? 1 : 0));
  colourPlanes(here).forEach((plane, c) => {
    for (let i = 0; i < known.length; i++)
      if (known[i]) surface[c][i] = plane[Math.floor(i / rect.width) * here.stride + (i % rect.width)];
  });
  const invented = columnOf(Uint8Array, coverage, (amount) => (amount > 0 ? 1 : 0));
  reviveTexture(surface, invented, known, rect.width, Math.imul(rect.left, 73856093) ^ rect.top);
}

/** Works out healed values for a field; where the source is not there, nothing is covered. */
export function healField(task: HealTask): Patch {
  const { rect, coverage } = task.field;
  const difference = differences(task);
  const weight = ringWeights(task, difference);
  const surface = membrane(difference, weight, rect.width, rect.height);
  const { source } = task;
  if (!source) {
    grainFrom(task, surface, weight);
    return { rect, values: surface, coverage };
  }
  for (let c = 0; c < surface.length; c++)
    for (let i = 0; i < coverage.length; i++) surface[c][i] += source.planes[c][i];
  return { rect, values: surface, coverage: coverage.map((amount, i) => (source.there[i] ? amount : 0)) };
}

/**
 * Heals a target: the source's texture, raised or lowered by a smooth membrane so that it meets the surroundings.
 * Works on encoded values, because what is laid down is paint and steps must be even to the eye. Ring samples that
 * belong to another surface or lie beyond a fence are left out, so that nothing bleeds in from there.
 * (Perez, Gangnet, Blake 2003, Poisson image editing.)
 */
export function heal(mend: HealMend, { pixels, fences }: Canvas): Patch {
  const field = targetField(mend, pixels.shape, RING);
  const { rect } = field;
  if (isEmpty(rect)) return EMPTY_PATCH;
  const { zone } = mend;
  const source = mend.source
    ? readSource(pixels, mend.source, targetMiddle(mend.target), rect, { fences, zone })
    : null;
  return healField({
    field,
    here: pixels.window(rect).raster,
    source,
    allowance: allowanceOn(fences, zone, rect, pixels.shape),
  });
}
