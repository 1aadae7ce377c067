import type { GrainModel } from '../../../grain/grainModel.ts';
import type { MendBase } from '../../mendBase.ts';

/** Lost detail drawn anew: strokes of one colour, with the picture's own grain on them. */
export interface DrawMend extends MendBase {
  readonly method: 'draw';
  /** Encoded, 0 to 1: one value for each colour channel, or one for all. */
  readonly colour: readonly number[];
  /** Over so many pixels of its course a stroke fades in and out at its ends; 0 ends it as it is. */
  readonly fade: number;
  /** How much grain lies on the colour, 0 to 2; 1 is as much as elsewhere in the picture. */
  readonly strength: number;
  readonly grain: GrainModel;
}
