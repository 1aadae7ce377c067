import { Type } from '@sinclair/typebox';
import { tagged } from '../tagged.ts';
import { IdSchema } from './id.ts';
import { PointSchema } from './target.ts';

const base = {
  id: IdSchema,
  on: Type.Boolean(),
  share: Type.Number({ minimum: 0, maximum: 1 }),
  zone: Type.Optional(IdSchema),
};

const ToneSchema = Type.Object(
  {
    black: Type.Number({ minimum: 0, maximum: 1 }),
    white: Type.Number({ minimum: 0, maximum: 1 }),
    gamma: Type.Number({ minimum: 0.05, maximum: 20 }),
  },
  { additionalProperties: false },
);

/** A step of the finish. */
export const FinishSchema = tagged('method', [
  Type.Object(
    { ...base, method: Type.Literal('levels'), tones: Type.Array(ToneSchema, { minItems: 1, maxItems: 3 }) },
    { additionalProperties: false },
  ),
  Type.Object(
    {
      ...base,
      method: Type.Literal('curve'),
      points: Type.Array(PointSchema, { minItems: 2, maxItems: 50 }),
    },
    { additionalProperties: false },
  ),
  Type.Object(
    {
      ...base,
      method: Type.Literal('colour'),
      temperature: Type.Number({ minimum: -2, maximum: 2 }),
      tint: Type.Number({ minimum: -2, maximum: 2 }),
      saturation: Type.Number({ minimum: 0, maximum: 3 }),
    },
    { additionalProperties: false },
  ),
]);
