import type { FloatPlane } from '../../raster/float.ts';
import type { Raster } from '../../raster/raster.ts';
import type { PictureNature } from '../nature/nature.ts';
import type { WitnessMaps } from './witnessMaps.ts';

/** A whole picture that a net looked at. */
export interface WitnessedPicture {
  readonly nature: PictureNature;
  readonly raster: Raster;
  /** Encoded luma of the same, 0 to 1. */
  readonly luma: FloatPlane;
  readonly maps: WitnessMaps;
}
