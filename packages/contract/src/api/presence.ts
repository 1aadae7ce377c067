import type { Static } from '@sinclair/typebox';
import { Type } from '@sinclair/typebox';

export const WindowPlaceSchema = Type.Object(
  {
    /** The window's own id, as long as it is open. */
    window: Type.String({ minLength: 8, maxLength: 64, pattern: '^[A-Za-z0-9_-]+$' }),
    /** The picture that it shows; null where it shows none. */
    picture: Type.Union([Type.String({ maxLength: 36 }), Type.Null()]),
  },
  { additionalProperties: false },
);
/** What a window of a page shows. */
export type WindowPlace = Static<typeof WindowPlaceSchema>;

/** A window says so often where it is, in milliseconds; one that was not heard of for three times as long is closed. */
export const PRESENT_EVERY_MS = 15_000;

/** Somebody else who has a picture of a job open. */
export interface Present {
  readonly window: string;
  readonly name: string;
  readonly picture: string;
}
