import type { Window } from '../../raster/window.ts';
import type { VeilPrior } from './leastVariation.ts';
import { createVariation } from './leastVariation.ts';
import { greyLight, lightPatchOf, shrinkLight } from './lightPatch.ts';
import type { RoughPlace } from './sketchVeil.ts';
import { SHAPE, descend, sketchVeil } from './sketchVeil.ts';
import type { Veil } from '../../veil/veil.ts';
import { AT, parametersOf, veilFrom } from './veilParameters.ts';

export interface FittedVeil {
  readonly veil: Veil;
  /** How much more likely the picture is with the veil undone, in units of log likelihood; below 0 there is none. */
  readonly evidence: number;
}

/** Radius in samples at which a fit is finished. */
const FINE_RADIUS = 12;

const WHOLE_SHAPE = [...SHAPE, AT.shearA, AT.shearB];

/** Evidence on the shrunk patch below which the search is given up. */
const HOPELESS = -0.25;

/**
 * Fits a veil to a rough place: the disc that, undone in linear light, leaves the least variation.
 * {@link createVariation} tells the method; the search goes from a sketch on a shrunk patch to a finer one.
 *
 * @param window pixels around the place, best {@link fitReach} on all sides
 * @param unknown pixels of the window that belong to other faults and say nothing, row after row
 */
export function fitVeil(window: Window, place: RoughPlace, unknown?: Uint8Array): FittedVeil {
  const { patch, prior, lights, point: sketched, evidence } = sketchVeil(window, place, unknown);
  // Where not even the rough picture shows a veil, the fine one will not.
  if (evidence < HOPELESS) return { veil: veilFrom(sketched), evidence };
  const fine = createVariation(shrinkLight(patch, place.r, FINE_RADIUS), prior);
  const { point, cost } = descend(fine, sketched, [...WHOLE_SHAPE, ...lights], 15);
  return { veil: veilFrom(point), evidence: -cost };
}

/** How far a known veil's place and size may still be off, in radii: what many frames say together. */
const KNOWN = { centre: 0.03, logRadius: 0.03, softness: 0.04, shear: 0.02 };

/**
 * Fits a veil of which nearly all is known, from many frames of the same sensor: its place and shape hardly move, its
 * depth within what its error allows.
 *
 * @param depthSpread standard error of the depth that is known
 * @param unknown as in {@link fitVeil}
 */
export function refineVeil(
  window: Window,
  veil: Veil,
  depthSpread: number,
  unknown?: Uint8Array,
): FittedVeil {
  const full = lightPatchOf(window);
  if (unknown) for (let i = 0; i < unknown.length; i++) if (unknown[i]) full.known[i] = 0;
  const patch = veil.light === null ? greyLight(full) : full;
  const expected = parametersOf(veil);
  const centre = KNOWN.centre * veil.r + 0.05;
  const { logRadius, softness, shear } = KNOWN;
  const prior: VeilPrior = {
    expected,
    spread: Float64Array.from([
      ...[centre, centre, logRadius, softness, shear, shear, depthSpread],
      ...(veil.light ?? []).map(() => 0.1),
    ]),
  };
  const variation = createVariation(shrinkLight(patch, veil.r, FINE_RADIUS), prior);
  const { point, cost } = descend(variation, expected, WHOLE_SHAPE, 6);
  return { veil: { ...veilFrom(point), light: veil.light }, evidence: -cost };
}
