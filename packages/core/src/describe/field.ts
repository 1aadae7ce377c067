/**
 * How the fields of a document are described: once, beside what they are for. The JSON Schema, the editor's fields and
 * the tables in docs/recipe.md follow from it.
 */

/** What a number counts. */
export type Unit = 'pixels' | 'radians' | 'stops' | 'share' | 'noise' | 'lightness' | 'degrees' | 'none';

/** How a number is shown and set by a person. */
export interface ShownNumber {
  /** The unit that is shown: a share as percent or as level of 255, radians as degrees, and others as they are stored. */
  readonly as: 'as stored' | 'percent' | 'levels' | 'degrees';
  /** Range and step of its slider, in the unit that is shown. */
  readonly least: number;
  readonly most: number;
  readonly step: number;
  /** Where null is allowed: the value of the slider that stands for it. */
  readonly none?: number;
}

export interface NumberField {
  readonly kind: 'number';
  readonly says: string;
  readonly unit: Unit;
  /** The range that a document may hold. */
  readonly least: number;
  readonly most: number;
  /** True if the least itself is not allowed. */
  readonly isAbove?: true;
  /** True if the most itself is not allowed. */
  readonly isBelow?: true;
  readonly isWhole?: true;
  /** The value of a new one; missing where it is measured or fitted. */
  readonly start?: number;
  /** Missing where no slider sets it. */
  readonly shown?: ShownNumber;
}

/** A number or null. */
export interface NullableNumberField extends Omit<NumberField, 'kind' | 'start'> {
  readonly kind: 'number or null';
  readonly start?: number | null;
}

export interface ChoiceField<T extends string | number = string | number> {
  readonly kind: 'choice';
  readonly says: string;
  readonly options: readonly T[];
  readonly start?: T;
  /** True if a person sets it from a list. */
  readonly isShown?: true;
}

export interface ToggleField {
  readonly kind: 'toggle';
  readonly says: string;
  readonly start?: boolean;
}

/** What has a shape of its own, described elsewhere by that name. */
export interface ShapeField {
  readonly kind: 'shape';
  readonly says: string;
  readonly shape: ShapeName;
  readonly start?: unknown;
}

/** Named shapes: what fields can hold besides numbers and choices. */
export const SHAPE_NAMES = [
  'target',
  'mask',
  'source',
  'source or null',
  'veil',
  'relief',
  'guides',
  'variants',
  'grain',
  'noise by brightness',
  'colour statistics',
  'colour',
  'packed values',
  'tones',
  'curve points',
] as const;

export type ShapeName = (typeof SHAPE_NAMES)[number];

export type Field = (NumberField | NullableNumberField | ChoiceField | ToggleField | ShapeField) & {
  readonly isOptional?: true;
};

/** The kind of field that can hold values of a type. */
type FieldOf<T> = [T] extends [number]
  ? number extends T
    ? NumberField
    : ChoiceField<T>
  : [T] extends [boolean]
    ? ToggleField
    : [T] extends [string]
      ? string extends T
        ? ShapeField
        : ChoiceField<T>
      : [T] extends [number | null]
        ? NullableNumberField
        : ShapeField;

/** One field for each property of a type: a property without one, or one too many, does not compile. */
export type FieldsOf<T> = {
  readonly [K in keyof T]-?: undefined extends T[K]
    ? FieldOf<Exclude<T[K], undefined>> & { readonly isOptional: true }
    : FieldOf<T[K]>;
};

/** A number as it is shown, from one as it is stored, and back. */
const FACTOR: Readonly<Record<ShownNumber['as'], number>> = {
  'as stored': 1,
  percent: 100,
  levels: 255,
  degrees: 180 / Math.PI,
};

/** A stored value in the unit in which it is shown, rounded to its step's decimals. */
export function shownValue(shown: ShownNumber, stored: number | null): number {
  if (stored === null) return shown.none ?? shown.least;
  const decimals = Math.max(0, Math.ceil(-Math.log10(shown.step)));
  return Number((stored * FACTOR[shown.as]).toFixed(decimals));
}

/** The stored value of one that is shown. */
export const storedValue = (shown: ShownNumber, value: number): number | null =>
  shown.none !== undefined && value === shown.none ? null : value / FACTOR[shown.as];
