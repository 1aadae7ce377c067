import { Type } from '@sinclair/typebox';
import { IdSchema } from './id.ts';
import { TargetSchema } from './target.ts';

export const FenceSchema = Type.Object(
  {
    id: IdSchema,
    kind: Type.Union([Type.Literal('guard'), Type.Literal('zone')]),
    name: Type.String({ minLength: 1, maxLength: 100 }),
    area: TargetSchema,
    edge: Type.Number({ minimum: 0, maximum: 1000 }),
    on: Type.Boolean(),
  },
  { additionalProperties: false },
);
