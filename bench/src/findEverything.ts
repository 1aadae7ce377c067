import type { PictureNature } from '@fennip/core/examine';
import { EVERYTHING, examinePicture } from '@fennip/core/examine';
import type { Fault } from '@fennip/core/fault';
import type { Raster } from '@fennip/core/raster';
import { pixelsOf } from '@fennip/core/raster';
import { joinWithNet } from '@fennip/witness';

/** Finds all faults of a picture with their confidences, the unlikeliest among them. */
export type Finder = (seen: Raster, nature: PictureNature) => Promise<Fault[]>;

/** The finders by themselves. */
export const findAlone: Finder = (seen, nature) =>
  Promise.resolve(examinePicture(pixelsOf(seen), EVERYTHING, nature));

/** The finders and the net, as the application and the command line find. */
export const findEverything: Finder = async (seen, nature) =>
  joinWithNet(await findAlone(seen, nature), pixelsOf(seen), nature);
