import type { Static, TObject, TUnsafe } from '@sinclair/typebox';
import { Type } from '@sinclair/typebox';

/** One of several objects, told apart by one property, so that a mistake is named in the one that is meant. */
export const tagged = <T extends TObject[]>(
  tag: string,
  members: readonly [...T],
): TUnsafe<Static<T[number]>> =>
  Type.Unsafe<Static<T[number]>>({
    type: 'object',
    discriminator: { propertyName: tag },
    oneOf: [...members],
  });
