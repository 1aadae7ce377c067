import type { FieldsOf } from '../describe/field.ts';
import type { Mistake } from '../describe/mistake.ts';
import type { Rect } from '../raster/rect.ts';
import type { HeldPlanes } from './heldPlanes.ts';
import type { FinishBase, FramingBase } from './stepBase.ts';

interface Sides {
  readonly width: number;
  readonly height: number;
}

/** How a step is carried over to another picture of the same sensor. */
export type CarriedOver = 'as it is' | 'where both show the same part of the sensor' | 'never';

/** What is known of any step: what it does, its fields, how it is carried over. */
export interface FinishDescription<S extends { readonly method: string }> {
  readonly name: S['method'];
  /** In one phrase, for documents. */
  readonly does: string;
  readonly fields: FieldsOf<Omit<S, keyof FinishBase | 'method'>>;
  readonly carried: CarriedOver;
  /** Looks for what a schema cannot say. @param picture sides of the upright original */
  check?(step: S, picture: Sides): Mistake | null;
}

/** What becomes of a value of 0 to 1, each for itself. */
export interface ValueCurve {
  /** Curves with the same key are the same. */
  readonly key: string;
  at(value: number): number;
}

/** A step that changes values: each for itself, or by what lies around them. */
export type ValueDescription<S extends FinishBase & { readonly method: string }> = FinishDescription<S> & {
  readonly frames: false;
  /** The step on a picture that is so many times smaller. */
  scale(step: S, times: number): S;
} & (
    | {
        /** What becomes of each value of a channel. */
        curve(step: S, channel: number): ValueCurve;
      }
    | {
        /** How far it looks around, in pixels; 0 where every pixel is for itself. */
        reach(step: S): number;
        /** True if it changes nothing. */
        isIdle(step: S): boolean;
        /** Changes encoded values of 0 to 1, in place. @returns the part for which it is known */
        apply(step: S, held: HeldPlanes, wanted: Rect): HeldPlanes;
      }
  );

/** A step that changes where values are seen. */
export interface FramingDescription<
  S extends FramingBase & { readonly method: string },
> extends FinishDescription<S> {
  readonly frames: true;
}
