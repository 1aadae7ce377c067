import type { Field } from '@fennip/core/describe';
import type { TObject, TProperties, TSchema } from '@sinclair/typebox';
import { Type } from '@sinclair/typebox';
import { SHAPES } from './shapes.ts';

/** The range of a number, as JSON Schema says it; what is infinite is left out. */
function rangeOf({ least, most, isAbove, isBelow }: Extract<Field, { readonly least: number }>): object {
  return {
    ...(Number.isFinite(least) ? { [isAbove ? 'exclusiveMinimum' : 'minimum']: least } : {}),
    ...(Number.isFinite(most) ? { [isBelow ? 'exclusiveMaximum' : 'maximum']: most } : {}),
  };
}

function schemaOf(field: Field): TSchema {
  switch (field.kind) {
    case 'number':
      return field.isWhole ? Type.Integer(rangeOf(field)) : Type.Number(rangeOf(field));
    case 'number or null':
      return Type.Union([Type.Number(rangeOf(field)), Type.Null()]);
    case 'choice':
      return Type.Union(field.options.map((option) => Type.Literal(option)));
    case 'toggle':
      return Type.Boolean();
    case 'shape':
      return SHAPES[field.shape];
  }
}

/** The schema of a document that a description describes: what all have in common, its name, and its own fields. */
export function describedSchema(
  common: TProperties,
  { name, fields }: { readonly name: string; readonly fields: Readonly<Record<string, Field>> },
): TObject {
  const own = Object.entries(fields).map(([key, field]) => {
    const schema = schemaOf(field);
    return [key, field.isOptional ? Type.Optional(schema) : schema];
  });
  return Type.Object(
    { ...common, method: Type.Literal(name), ...(Object.fromEntries(own) as TProperties) },
    { additionalProperties: false },
  );
}
