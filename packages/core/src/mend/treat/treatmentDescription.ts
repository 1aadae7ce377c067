import type { FieldsOf } from '../../describe/field.ts';
import type { Mistake } from '../../describe/mistake.ts';
import type { GrainModel } from '../../grain/grainModel.ts';
import type { Rect } from '../../raster/rect.ts';
import type { MendBase } from '../mendBase.ts';
import type { StartingMark } from '../startingMark.ts';
import type { Ground } from './ground.ts';

/** What of every mend depends on the size of the pixels. */
export type ScaledReach = Pick<MendBase, 'target' | 'margin' | 'edge' | 'paint'>;

/** All that is known of a treatment: what it does, what it reads, how it is scaled and carried over, its fields. */
export interface TreatmentDescription<M extends MendBase & { readonly method: string }> {
  readonly name: M['method'];
  /** In one phrase, for documents. */
  readonly does: string;
  readonly fields: FieldsOf<Omit<M, keyof MendBase | 'method'>>;
  /** The mark it is painted with; missing where it is not painted but comes from elsewhere. */
  readonly mark?: StartingMark;
  /** How far beyond a pixel it looks to tell its new value, in pixels. */
  reach(mend: M): number;
  /** New encoded values of a rectangle, in code values, not rounded, one array for each colour channel. */
  values(mend: M, ground: Ground, rect: Rect): Float32Array[];
  /**
   * The treatment on a level of the pyramid that is so many times smaller, near enough to be judged by.
   *
   * @param scaled what every mend has, as it is on that level
   */
  scale(mend: M, times: number, scaled: ScaledReach): M;
  /** The treatment with the grain of the picture it lies on; missing where it knows nothing of grain. */
  withGrain?(mend: M, grain: GrainModel): M;
  /** Over so many pixels its strokes fade at their ends; not at all where it is missing. */
  strokeFade?(mend: M): number;
  /** Looks for what a schema cannot say of its own fields. */
  check?(mend: M): Mistake | null;
  /** Why it cannot be carried over to another picture; it can where it is missing. */
  readonly notCarried?: 'what came back from another program';
}
