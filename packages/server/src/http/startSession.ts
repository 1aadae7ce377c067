import type { Request } from 'express';
import type { Person } from '@fennip/contract';

/** Runs something that calls back with an error or nothing. */
const whenDone = (run: (done: (error: unknown) => void) => void): Promise<void> =>
  new Promise((resolve, reject) => run((error) => (error ? reject(error as Error) : resolve())));

/** Signs somebody in, in another session than before: nobody who knew the old one is signed in with it. */
export async function startSession(request: Request, person: Person): Promise<void> {
  await whenDone((done) => request.session.regenerate(done));
  request.session.person = person.id;
  // Stored before the answer begins: a browser that is led on asks with the new cookie at once.
  await whenDone((done) => request.session.save(done));
  request.person = person;
}

/** Ends a session: what its cookie says is worth nothing any more. */
export const endSession = (request: Request): Promise<void> =>
  whenDone((done) => request.session.destroy(done));
