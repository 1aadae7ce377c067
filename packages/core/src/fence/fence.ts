import type { Target } from '../target/target.ts';

/** An area of the picture that bounds what mends may do. */
export interface Fence {
  readonly id: string;
  /** In a guard nothing changes and nothing is taken from it; a zone bounds the mends that name it. */
  readonly kind: 'guard' | 'zone';
  readonly name: string;
  readonly area: Target;
  /** Width in pixels of the soft border, half of it inside the area; 0 is cut hard. */
  readonly edge: number;
  readonly on: boolean;
}
