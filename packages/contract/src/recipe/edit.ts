import type { Static } from '@sinclair/typebox';
import { Type } from '@sinclair/typebox';
import type { Edit } from '@fennip/core/recipe';
import type { Same } from '../same.ts';
import { FaultKindSchema, NumberedFaultSchema } from './faults.ts';
import { FenceSchema } from './fence.ts';
import { FinishSchema } from './finish.ts';
import { IdSchema } from './id.ts';
import { MendSchema } from './mend.ts';

const JudgementSchema = Type.Union([
  Type.Literal('open'),
  Type.Literal('set aside'),
  Type.Literal('dismissed'),
]);

const StepSchema = Type.Union([
  Type.Object(
    { op: Type.Literal('put'), mend: MendSchema, at: Type.Integer({ minimum: 0 }) },
    { additionalProperties: false },
  ),
  Type.Object({ op: Type.Literal('drop'), id: IdSchema }, { additionalProperties: false }),
  Type.Object(
    { op: Type.Literal('judge'), fault: IdSchema, as: JudgementSchema },
    { additionalProperties: false },
  ),
  Type.Object(
    { op: Type.Literal('name'), fault: IdSchema, as: Type.Union([FaultKindSchema, Type.Null()]) },
    { additionalProperties: false },
  ),
  Type.Object({ op: Type.Literal('mark'), fault: NumberedFaultSchema }, { additionalProperties: false }),
  Type.Object({ op: Type.Literal('unmark'), id: IdSchema }, { additionalProperties: false }),
  Type.Object(
    { op: Type.Literal('fence'), fence: FenceSchema, at: Type.Integer({ minimum: 0 }) },
    { additionalProperties: false },
  ),
  Type.Object({ op: Type.Literal('unfence'), id: IdSchema }, { additionalProperties: false }),
  Type.Object(
    { op: Type.Literal('finish'), step: FinishSchema, at: Type.Integer({ minimum: 0 }) },
    { additionalProperties: false },
  ),
  Type.Object({ op: Type.Literal('unfinish'), id: IdSchema }, { additionalProperties: false }),
]);

/** An edit with more steps is made as several: the page mends a few hundred faults at a time. */
export const MOST_STEPS = 20_000;

export const EditSchema = Type.Object(
  {
    words: Type.String({ minLength: 1, maxLength: 200 }),
    steps: Type.Array(StepSchema, { minItems: 1, maxItems: MOST_STEPS }),
  },
  { additionalProperties: false },
);

export type EditAgrees = Same<Static<typeof EditSchema>, Edit>;
export const EDIT_AGREES: EditAgrees = true;
