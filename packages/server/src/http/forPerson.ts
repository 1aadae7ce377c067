import type { Request } from 'express';
import type { Context } from '../context/context.ts';

/** The context of work that is done for whoever asks. */
export const forPerson = (context: Context, { person }: Request): Context => ({
  ...context,
  by: person?.name ?? null,
});
