import type { ChoiceField, Field, NumberField, ShownNumber } from '@fennip/core/describe';
import { shownValue, storedValue } from '@fennip/core/describe';
import type { WordKey } from '../i18n/say.ts';

/** A number of a described thing, as a person sees and sets it. */
export interface EditedNumber<T> {
  readonly kind: 'number';
  readonly name: string;
  readonly unit: WordKey | null;
  readonly least: number;
  readonly most: number;
  readonly step: number;
  readonly value: number;
  readonly set: (value: number) => T;
}

/** A choice of a described thing. */
export interface EditedChoice<T> {
  readonly kind: 'choice';
  readonly name: string;
  readonly value: string;
  readonly options: readonly string[];
  /** What is no option changes nothing. */
  readonly choose: (value: string) => T;
}

export type EditedField<T> = EditedNumber<T> | EditedChoice<T>;

const UNIT_WORDS: Readonly<Record<NumberField['unit'], WordKey | null>> = {
  pixels: 'unit.pixels',
  radians: 'unit.degrees',
  degrees: 'unit.degrees',
  stops: 'unit.stops',
  share: 'unit.percent',
  noise: 'unit.noise',
  lightness: 'unit.lightness',
  none: null,
};

const unitOf = (unit: NumberField['unit'], { as }: ShownNumber): WordKey | null =>
  as === 'levels' ? null : UNIT_WORDS[unit];

/** A thing with another value in one of its fields. */
const withField = <T extends object>(thing: T, name: string, value: unknown): T => ({
  ...thing,
  [name]: value,
});

function editedChoice<T extends object>(
  thing: T,
  name: string,
  options: ChoiceField['options'],
  value: string,
): EditedChoice<T> {
  const choose = (wanted: string): T => {
    const option = options.find((one) => String(one) === wanted);
    return option === undefined ? thing : withField(thing, name, option);
  };
  return { kind: 'choice', name, value, options: options.map(String), choose };
}

/** The fields of a thing that a person sets with a slider or from a list, in the order of its description. */
export function editedFields<T extends object>(
  thing: T,
  fields: Readonly<Record<string, Field>>,
): EditedField<T>[] {
  const values = new Map<string, unknown>(Object.entries(thing));
  return Object.entries(fields).flatMap(([name, field]): EditedField<T>[] => {
    const value = values.get(name);
    if (field.kind === 'choice')
      return field.isShown ? [editedChoice(thing, name, field.options, String(value))] : [];
    if (field.kind !== 'number' && field.kind !== 'number or null') return [];
    const { shown } = field;
    if (!shown || (typeof value !== 'number' && value !== null)) return [];
    return [
      {
        ...{ kind: 'number', name, unit: unitOf(field.unit, shown) },
        ...{ least: shown.least, most: shown.most, step: shown.step, value: shownValue(shown, value) },
        set: (next) => withField(thing, name, storedValue(shown, next)),
      },
    ];
  });
}

/** The share of a mend or step, in per cent. */
export const shareField = <T extends { readonly share: number }>(
  thing: T,
  step: number,
): EditedNumber<T> => ({
  ...{ kind: 'number', name: 'share', unit: 'unit.percent', least: 0, most: 100, step },
  value: Math.round(thing.share * 100),
  set: (value) => ({ ...thing, share: value / 100 }),
});

/** The values that the described fields of a new thing begin with. */
export const startingValues = (fields: Readonly<Record<string, Field>>): Record<string, unknown> =>
  Object.fromEntries(
    Object.entries(fields).flatMap(([name, { start }]) => (start === undefined ? [] : [[name, start]])),
  );
