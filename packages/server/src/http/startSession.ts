import type { Request } from 'express';
import type { Person } from '@fennip/contract';

/** Signs somebody in, in another session than before: nobody who knew the old one is signed in with it. */
export async function startSession(request: Request, person: Person): Promise<void> {
  await new Promise<void>((resolve, reject) =>
    request.session.regenerate((error: unknown) => (error ? reject(error as Error) : resolve())),
  );
  request.session.person = person.id;
  request.person = person;
}

/** Ends a session: what its cookie says is worth nothing any more. */
export const endSession = (request: Request): Promise<void> =>
  new Promise((resolve, reject) =>
    request.session.destroy((error: unknown) => (error ? reject(error as Error) : resolve())),
  );
