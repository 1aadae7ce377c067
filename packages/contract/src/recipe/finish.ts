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

/** What frames the picture does so all of it, or not at all. */
const framing = { id: IdSchema, on: Type.Boolean(), share: Type.Literal(1) };

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
  Type.Object(
    {
      ...base,
      method: Type.Literal('contrast'),
      amount: Type.Number({ minimum: -1, maximum: 3 }),
      size: Type.Number({ minimum: 1, maximum: 500 }),
    },
    { additionalProperties: false },
  ),
  Type.Object(
    {
      ...base,
      method: Type.Literal('sharpen'),
      way: Type.Union([Type.Literal('unsharp'), Type.Literal('deconvolve')]),
      radius: Type.Number({ minimum: 0.2, maximum: 20 }),
      amount: Type.Number({ minimum: 0, maximum: 5 }),
      threshold: Type.Number({ minimum: 0, maximum: 1 }),
    },
    { additionalProperties: false },
  ),
  Type.Object(
    {
      ...base,
      method: Type.Literal('soften'),
      radius: Type.Number({ minimum: 0.2, maximum: 100 }),
    },
    { additionalProperties: false },
  ),
  Type.Object(
    {
      ...framing,
      method: Type.Literal('lens'),
      k1: Type.Number({ minimum: -0.5, maximum: 0.5 }),
      k2: Type.Number({ minimum: -0.5, maximum: 0.5 }),
    },
    { additionalProperties: false },
  ),
  Type.Object(
    {
      ...framing,
      method: Type.Literal('straighten'),
      angle: Type.Number({ minimum: -3.2, maximum: 3.2 }),
    },
    { additionalProperties: false },
  ),
  Type.Object(
    {
      ...framing,
      method: Type.Literal('crop'),
      left: Type.Integer(),
      top: Type.Integer(),
      width: Type.Integer({ minimum: 1 }),
      height: Type.Integer({ minimum: 1 }),
    },
    { additionalProperties: false },
  ),
]);
