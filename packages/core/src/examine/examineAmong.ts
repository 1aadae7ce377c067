import type { PictureShape } from '../raster/raster.ts';
import { gatherFindings } from './examinePicture.ts';
import type { MeasuredPart } from './examineTile.ts';
import type { Fault } from '../fault/fault.ts';
import type { PictureNature } from './nature/nature.ts';
import { rescored, doubtfulSpecks } from './specks/rescoreDoubtful.ts';
import type { ExamineTile } from './tiles.ts';
import { examineTiles } from './tiles.ts';

/** Threads that each have the picture: what they are asked for at once they share among themselves. */
export interface ExamineThreads {
  tile(tile: ExamineTile): Promise<MeasuredPart>;
  /** What is looked for on the picture as a whole. */
  whole(): Promise<MeasuredPart>;
  /** What a closer look says of each, see `scoreWithNet`. */
  closer(specks: readonly Fault[]): Promise<number[]>;
  /** What a net that was trained to see faults makes of the findings, see `joinWitness`; as they are where there is none. */
  joined(findings: readonly Fault[]): Promise<Fault[]>;
}

/** So many specks are looked at more closely at a time. */
const RUN = 24;

/**
 * Finds the faults of a whole picture in threads, with nothing decided; the same as on one, but for what the net says.
 *
 * @param picture sides, depth and channels of the whole
 * @param onProgress called with the share that is done, 0 to 1
 * @returns places and radii in pixels of the upright picture, confidences 0 to 1
 */
export async function examineAmong(
  threads: ExamineThreads,
  picture: PictureShape,
  nature: PictureNature,
  onProgress: (share: number) => void = () => undefined,
): Promise<Fault[]> {
  // Only a print can have areas: a camera frame has no emulsion to lose.
  const whole = nature === 'print' ? [threads.whole()] : [];
  // From the bottom up: the ground is mostly busier than the sky, and threads end together where the longest is begun first.
  const tiles = examineTiles(picture).reverse();
  const parts = [...whole, ...tiles.map((tile) => threads.tile(tile))];
  let done = 0;
  const measured = await Promise.all(
    parts.map(async (measuring) => {
      const part = await measuring;
      done++;
      onProgress(done / parts.length);
      return part;
    }),
  );
  const findings = gatherFindings(measured, nature);
  const doubtful = doubtfulSpecks(findings, nature);
  const runs = Array.from({ length: Math.ceil(doubtful.length / RUN) }, (_, k) =>
    threads.closer(doubtful.slice(RUN * k, RUN * (k + 1))),
  );
  return threads.joined(rescored(findings, doubtful, (await Promise.all(runs)).flat()));
}
