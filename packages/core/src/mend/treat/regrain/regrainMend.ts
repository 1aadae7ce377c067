import type { GrainModel } from '../../../grain/grainModel.ts';
import type { MendBase } from '../../mendBase.ts';

/** Puts the picture's own grain back where it is missing. */
export interface RegrainMend extends MendBase {
  readonly method: 'regrain';
  /** How much grain there is to be in the end, 0 to 2; 1 is as much as elsewhere in the picture. */
  readonly strength: number;
  readonly grain: GrainModel;
}
