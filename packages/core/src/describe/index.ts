export type { ChoiceField, Field, NumberField, ShapeName, ShownNumber } from './field.ts';
export { SHAPE_NAMES, shownValue, storedValue } from './field.ts';
