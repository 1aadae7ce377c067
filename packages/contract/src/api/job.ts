import type { Static } from '@sinclair/typebox';
import { Type } from '@sinclair/typebox';

/** A name the restorer gives: no control characters, not only spaces. */
export const NameSchema = Type.String({
  minLength: 1,
  maxLength: 120,
  pattern: '^[^\\u0000-\\u001f]*\\S[^\\u0000-\\u001f]*$',
});

export const NewJobSchema = Type.Object({ name: NameSchema }, { additionalProperties: false });
export type NewJob = Static<typeof NewJobSchema>;

export interface Job {
  readonly id: string;
  readonly name: string;
  /** ISO 8601. */
  readonly createdAt: string;
  readonly pictures: number;
}
