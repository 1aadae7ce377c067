import { Type } from '@sinclair/typebox';
import { tagged } from '../tagged.ts';

export const coordinate = Type.Number({ minimum: -1e6, maximum: 1e6 });
export const PointSchema = Type.Tuple([coordinate, coordinate]);

/** Any set of pixels inside a rectangle, as run lengths. */
export const MaskSchema = Type.Object(
  {
    shape: Type.Literal('mask'),
    left: Type.Integer(),
    top: Type.Integer(),
    width: Type.Integer({ minimum: 1, maximum: 100_000 }),
    height: Type.Integer({ minimum: 1, maximum: 100_000 }),
    runs: Type.Array(Type.Integer({ minimum: 0 }), { minItems: 1 }),
  },
  { additionalProperties: false },
);

export const TargetSchema = tagged('shape', [
  Type.Object(
    {
      shape: Type.Literal('disc'),
      x: coordinate,
      y: coordinate,
      r: Type.Number({ exclusiveMinimum: 0, maximum: 1e5 }),
    },
    { additionalProperties: false },
  ),
  Type.Object(
    {
      shape: Type.Literal('stroke'),
      points: Type.Array(PointSchema, { minItems: 1, maxItems: 10_000 }),
      width: Type.Number({ exclusiveMinimum: 0, maximum: 1e5 }),
      pressure: Type.Optional(
        Type.Array(Type.Number({ minimum: 0, maximum: 1 }), { minItems: 1, maxItems: 10_000 }),
      ),
    },
    { additionalProperties: false },
  ),
  Type.Object(
    { shape: Type.Literal('outline'), points: Type.Array(PointSchema, { minItems: 3, maxItems: 10_000 }) },
    { additionalProperties: false },
  ),
  MaskSchema,
]);
