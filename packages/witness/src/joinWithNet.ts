import { availableParallelism } from 'node:os';
import type { PictureNature } from '@fennip/core/examine';
import { joinWitness, lookAtPicture } from '@fennip/core/witness';
import type { Fault } from '@fennip/core/fault';
import type { Pixels } from '@fennip/core/raster';
import type { StartedWitness } from './startWitness.ts';
import { WITNESS_FILE, startWitness } from './startWitness.ts';

/** Nets by their files: each is loaded once in each thread that asks it. */
const started = new Map<string, Promise<StartedWitness>>();

/**
 * Findings as the finders and the net together make them. Where there is no net they are returned as they are.
 *
 * @param findings of the whole picture, with nothing decided
 * @param pixels encoded values of the whole upright picture
 * @param file of the net
 */
export async function joinWithNet(
  findings: readonly Fault[],
  pixels: Pixels,
  nature: PictureNature,
  file: string = WITNESS_FILE,
): Promise<Fault[]> {
  const starting = started.get(file) ?? startWitness(availableParallelism(), file);
  started.set(file, starting);
  const net = await starting;
  if (!('witness' in net)) return [...findings];
  try {
    return joinWitness(findings, await lookAtPicture(pixels, net.witness), pixels, nature);
  } catch (cause) {
    // Its process may have ended: who asks next starts another one.
    started.delete(file);
    throw cause;
  }
}
