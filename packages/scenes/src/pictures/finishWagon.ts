import type { Raster } from '@fennip/core/raster';
import { layParticles, litParticles } from '../faults/litParticles.ts';
import type { LaidFault } from '../faults/truth.ts';
import { blurLight } from '../film/lens.ts';
import type { Film } from '../film/toRaster.ts';
import { develop, expose } from '../film/toRaster.ts';

const FILM: Film = { exposure: 1.7, vignette: 0.4, grain: 0.009, channels: 3, depth: 8, seed: 5 };
const PARTICLES = { count: 420, seed: 77 };

/** The wagon at the bottom of the flooded quarry without anything between it and the lens. Changes the light. */
export function finishCleanWagon(light: Float32Array, width: number, height: number): Raster {
  blurLight(light, width, height, 0.9);
  expose(light, width, height, FILM);
  blurLight(light, width, height, 0.5);
  return develop(light, width, height, FILM);
}

/** The same among particles that the lamps light. Changes the light. */
export function finishWagon(
  light: Float32Array,
  width: number,
  height: number,
): { raster: Raster; faults: readonly LaidFault[] } {
  blurLight(light, width, height, 0.9);
  expose(light, width, height, FILM);
  const particles = litParticles(PARTICLES.count, width, height, PARTICLES.seed);
  const faults = layParticles({ light, width, height }, particles);
  blurLight(light, width, height, 0.5);
  return { raster: develop(light, width, height, FILM), faults };
}
