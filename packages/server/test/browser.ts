import type { Picture, Session } from '@fennip/contract';
import type { Config } from '../src/index.ts';
import { connect } from '../src/database/connect.ts';
import { addPerson } from '../src/people/people.ts';
import type { TestServer } from './testServer.ts';
import { startTestServer } from './testServer.ts';

export const PASSWORDS = {
  Ada: 'the incline in winter',
  Ben: 'a wagon under water',
  Cleo: 'nine signal lamps',
};

/** A server where people sign in: Ada runs the place, Ben works, Cleo sees. */
export async function startPeopledServer(more: Partial<Config> = {}): Promise<TestServer> {
  // Made while it is on loopback: as the command for accounts does.
  const server = await startTestServer({ ...more, signIn: 'where it is reached' });
  const database = connect(server.config.databaseUrl);
  for (const [name, role] of [
    ['Ada', 'runs'],
    ['Ben', 'works'],
    ['Cleo', 'sees'],
  ] as const)
    await addPerson(database, { name, role, password: PASSWORDS[name] });
  await database.destroy();
  await server.restart({ ...more, signIn: 'always' });
  return server;
}

/** A browser of somebody: it keeps the cookie that it was given. */
export function browser(address: () => string) {
  let cookie = '';
  return {
    get cookie() {
      return cookie;
    },
    async ask<T>(method: string, path: string, body?: unknown): Promise<{ status: number; answer: T }> {
      const response = await fetch(`${address()}/api${path}`, {
        method,
        headers: { cookie, ...(body === undefined ? {} : { 'content-type': 'application/json' }) },
        ...(body === undefined ? {} : { body: JSON.stringify(body) }),
      });
      const set = response.headers.getSetCookie().find((one) => one.startsWith('fennip='));
      if (set) cookie = set.split(';')[0];
      const text = await response.text();
      return { status: response.status, answer: (text === '' ? undefined : JSON.parse(text)) as T };
    },
    /** Sends a picture file. */
    async add(jobId: string, name: string, file: Uint8Array): Promise<Picture> {
      const response = await fetch(`${address()}/api/jobs/${jobId}/pictures?name=${name}`, {
        method: 'POST',
        headers: { cookie, 'content-type': 'application/octet-stream' },
        body: Buffer.from(file),
      });
      return (await response.json()) as Picture;
    },
    signIn(name: keyof typeof PASSWORDS, password: string = PASSWORDS[name]) {
      return this.ask<Session>('POST', '/session', { name, password });
    },
  };
}
