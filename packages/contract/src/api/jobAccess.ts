import type { Static } from '@sinclair/typebox';
import { Type } from '@sinclair/typebox';
import { MOST_PEOPLE } from './people.ts';

export const JobAccessChangeSchema = Type.Object(
  {
    /** Everybody sees it who can sign in. */
    everybody: Type.Boolean(),
    /** Those who see it otherwise, by their ids, besides whom it belongs to. */
    people: Type.Array(Type.String({ maxLength: 36 }), { maxItems: MOST_PEOPLE }),
  },
  { additionalProperties: false },
);
export type JobAccessChange = Static<typeof JobAccessChangeSchema>;

/** Somebody who sees a job, or could. */
export interface JobReader {
  readonly id: string;
  readonly name: string;
  /** Always: whom the job belongs to, and who runs the place. */
  readonly always: boolean;
  /** As things stand. */
  readonly sees: boolean;
}

/** Who sees a job. */
export interface JobAccess {
  readonly everybody: boolean;
  readonly readers: readonly JobReader[];
}
