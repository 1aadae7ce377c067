import type { Static } from '@sinclair/typebox';
import { Type } from '@sinclair/typebox';
import type { Picture } from './picture.ts';

/** Which pictures of a job hold the pieces of one torn print; the first one's profile and resolution are kept. */
export const JoinRequestSchema = Type.Object(
  {
    pictures: Type.Array(Type.String({ minLength: 1, maxLength: 100 }), {
      minItems: 1,
      maxItems: 24,
      uniqueItems: true,
    }),
  },
  { additionalProperties: false },
);
export type JoinRequest = Static<typeof JoinRequestSchema>;

/** A picture made of pieces, and how many of them fit. */
export interface Joined {
  readonly picture: Picture;
  readonly found: number;
  readonly laid: number;
}
