import { Type } from '@sinclair/typebox';

/** The name of a mend, a fence or a fault inside its document. */
export const IdSchema = Type.String({ minLength: 1, maxLength: 64, pattern: '^[A-Za-z0-9_-]+$' });
