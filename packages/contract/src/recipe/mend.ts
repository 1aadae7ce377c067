import type { Mend } from '@fennip/core/mend';
import { BECAUSE, METHOD_DESCRIPTIONS, TREATMENT_DESCRIPTIONS } from '@fennip/core/mend';
import { Type } from '@sinclair/typebox';
import { tagged } from '../tagged.ts';
import { describedSchema } from './fieldSchema.ts';
import { IdSchema } from './id.ts';
import { TargetSchema } from './target.ts';

const PaintStrokeSchema = Type.Object(
  {
    shape: TargetSchema,
    edge: Type.Number({ minimum: 0, maximum: 1000 }),
    amount: Type.Number({ minimum: 0, maximum: 1 }),
    lays: Type.Union([Type.Literal('in'), Type.Literal('out')]),
  },
  { additionalProperties: false },
);

/** What every mend has, whatever its method. */
const base = {
  id: IdSchema,
  target: TargetSchema,
  margin: Type.Number({ minimum: 0, maximum: 1000 }),
  edge: Type.Number({ minimum: 0, maximum: 1000 }),
  share: Type.Number({ minimum: 0, maximum: 1 }),
  on: Type.Boolean(),
  only: Type.Optional(Type.Union([Type.Literal('lighten'), Type.Literal('darken')])),
  zone: Type.Optional(IdSchema),
  fault: Type.Optional(IdSchema),
  carried: Type.Optional(
    Type.Object(
      { picture: Type.String({ minLength: 1, maxLength: 1000 }), mend: IdSchema },
      { additionalProperties: false },
    ),
  ),
  why: Type.Optional(
    Type.Object(
      {
        because: Type.Union(BECAUSE.map((cause) => Type.Literal(cause))),
        recoverability: Type.Optional(Type.Number({ minimum: 0, maximum: 1 })),
      },
      { additionalProperties: false },
    ),
  ),
  paint: Type.Optional(Type.Array(PaintStrokeSchema, { maxItems: 2000 })),
  locked: Type.Optional(Type.Boolean()),
  name: Type.Optional(Type.String({ minLength: 1, maxLength: 80 })),
};

/** A mend by any method, or a treatment; its own fields are those of its description in core. */
export const MendSchema = Type.Unsafe<Mend>(
  tagged(
    'method',
    [...Object.values(METHOD_DESCRIPTIONS), ...Object.values(TREATMENT_DESCRIPTIONS)].map((description) =>
      describedSchema(base, description),
    ),
  ),
);
