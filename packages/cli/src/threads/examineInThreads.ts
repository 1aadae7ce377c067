import type { ExamineOptions, PictureNature } from '@fennip/core/examine';
import type { Fault } from '@fennip/core/fault';
import type { Transfer } from '@fennip/core/light';
import type { Raster } from '@fennip/core/raster';
import { EVERYTHING, decideFindings, examineAmong, examinePicture } from '@fennip/core/examine';
import { pixelsOf, sharedRaster } from '@fennip/core/raster';
import { joinWithNet } from '@fennip/witness';
import type { Threads } from './threads.ts';
import { startThreads } from './threads.ts';

/** Pictures with fewer pixels are examined before threads would have started. */
const WORTH_THREADS = 4e6;

/** All that is found on a picture, tile by tile in threads that stand. */
export async function findAmongThreads(
  threads: Threads,
  raster: Raster,
  nature: PictureNature,
  transfer?: readonly Transfer[],
): Promise<Fault[]> {
  const picture = { raster: sharedRaster(raster), ...(transfer ? { transfer } : {}) };
  return examineAmong(
    {
      tile: (part) => threads.run('examine', { picture, part, nature }),
      whole: () => threads.run('examine', { picture, part: 'whole', nature }),
      closer: (specks) => threads.run('scoreWithNet', { picture, specks }),
      joined: (findings) => joinWithNet(findings, pixelsOf(raster, transfer), nature),
    },
    pixelsOf(raster, transfer).shape,
    nature,
  );
}

/** The faults of a picture, found in threads where that pays; the result is the same either way. */
export async function examineInThreads(
  raster: Raster,
  transfer: readonly Transfer[] | undefined,
  options: ExamineOptions,
  nature: PictureNature,
): Promise<Fault[]> {
  if (raster.width * raster.height < WORTH_THREADS) {
    const pixels = pixelsOf(raster, transfer);
    const everything = examinePicture(pixels, EVERYTHING, nature);
    return decideFindings(await joinWithNet(everything, pixels, nature), options, raster);
  }
  const threads = startThreads();
  try {
    return decideFindings(await findAmongThreads(threads, raster, nature, transfer), options, raster);
  } finally {
    await threads.close();
  }
}
