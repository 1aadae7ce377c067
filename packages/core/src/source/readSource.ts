import type { Fence } from '../fence/fence.ts';
import { allowanceOn } from '../fence/allowance.ts';
import type { Pixels } from '../raster/pixels.ts';
import type { Rect } from '../raster/rect.ts';
import type { Point } from '../target/target.ts';
import type { SampledSource } from './sampleSource.ts';
import { sampleSource, sourcePlaces } from './sampleSource.ts';
import type { Source } from './source.ts';

/** What bounds the reading of a source. */
export interface SourceFences {
  readonly fences: readonly Fence[];
  readonly zone: string | undefined;
}

/**
 * Reads a source onto the pixels of `rect`, as {@link sampleSource} does. What fences keep counts as not there:
 * nothing is taken from a guard, nor from beyond the mend's own zone.
 */
export function readSource(
  pixels: Pixels,
  source: Source,
  centre: Point,
  rect: Rect,
  { fences, zone }: SourceFences,
): SampledSource {
  const sampled = sampleSource(pixels, source, centre, rect);
  const { area, places } = sourcePlaces(source, centre, rect, pixels.shape);
  const allowance = allowanceOn(fences, zone, area, pixels.shape);
  if (!allowance) return sampled;
  const there = sampled.there.map((isThere, i) => (isThere && allowance[places[i]] === 1 ? 1 : 0));
  return { ...sampled, there };
}
