import type { FinishStep } from '@fennip/core/finish';
import { FINISH_DESCRIPTIONS } from '@fennip/core/finish';
import { Type } from '@sinclair/typebox';
import { tagged } from '../tagged.ts';
import { describedSchema } from './fieldSchema.ts';
import { IdSchema } from './id.ts';

const base = {
  id: IdSchema,
  on: Type.Boolean(),
  share: Type.Number({ minimum: 0, maximum: 1 }),
  zone: Type.Optional(IdSchema),
};

/** What frames the picture does so all of it, or not at all. */
const framing = { id: IdSchema, on: Type.Boolean(), share: Type.Literal(1) };

/** A step of the finish; its own fields are those of its description in core. */
export const FinishSchema = Type.Unsafe<FinishStep>(
  tagged(
    'method',
    Object.values(FINISH_DESCRIPTIONS).map((description) =>
      describedSchema(description.frames ? framing : base, description),
    ),
  ),
);
