import { availableParallelism } from 'node:os';
import type { PictureNature } from '@fennip/core/examine';
import { joinWitness, lookAtPicture } from '@fennip/core/examine';
import type { Fault } from '@fennip/core/fault';
import type { Pixels } from '@fennip/core/raster';
import type { StartedWitness } from './startWitness.ts';
import { startWitness } from './startWitness.ts';

/** Loaded once in each thread that asks it. */
let started: Promise<StartedWitness> | null = null;

/**
 * Findings as the finders and the net together make them. Where there is no net they are returned as they are.
 *
 * @param findings of the whole picture, with nothing decided
 * @param pixels encoded values of the whole upright picture
 */
export async function joinWithNet(
  findings: readonly Fault[],
  pixels: Pixels,
  nature: PictureNature,
): Promise<Fault[]> {
  started ??= startWitness(availableParallelism());
  const net = await started;
  if (!('witness' in net)) return [...findings];
  return joinWitness(findings, await lookAtPicture(pixels, net.witness), pixels, nature);
}
