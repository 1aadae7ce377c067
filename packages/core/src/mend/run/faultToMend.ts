import type { Fault } from '../../fault/fault.ts';
import type { Point } from '../../target/target.ts';
import type { KnownVeil } from '../../veil/veil.ts';

/** A fault that is to be mended, under the id its mend will have. */
export interface FaultToMend
  extends Pick<Fault, 'x' | 'y' | 'r' | 'softness'>, Partial<Pick<Fault, 'polarity' | 'kind' | 'isExact'>> {
  readonly id: string;
  readonly fault?: string;
  /** The course of a line; `r` is then half its width. */
  readonly path?: readonly Point[];
  /** The border of an area; `r` is then the radius of a disc as large. */
  readonly outline?: readonly Point[];
  /** The zone that bounds its mend, by id. */
  readonly zone?: string;
  /** What a dust chart knows of it. */
  readonly known?: KnownVeil;
}
