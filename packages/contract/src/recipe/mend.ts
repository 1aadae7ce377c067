import { Type } from '@sinclair/typebox';
import { TargetSchema } from './target.ts';

export const IdSchema = Type.String({ minLength: 1, maxLength: 64, pattern: '^[A-Za-z0-9_-]+$' });

const ShiftSchema = Type.Object(
  { dx: Type.Integer({ minimum: -1e5, maximum: 1e5 }), dy: Type.Integer({ minimum: -1e5, maximum: 1e5 }) },
  { additionalProperties: false },
);

export const MendSchema = Type.Object(
  {
    id: IdSchema,
    method: Type.Literal('heal'),
    target: TargetSchema,
    margin: Type.Number({ minimum: 0, maximum: 1000 }),
    edge: Type.Number({ minimum: 0, maximum: 1000 }),
    share: Type.Number({ minimum: 0, maximum: 1 }),
    on: Type.Boolean(),
    source: Type.Union([ShiftSchema, Type.Null()]),
    fault: Type.Optional(IdSchema),
  },
  { additionalProperties: false },
);
