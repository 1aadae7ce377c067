import type { Bin, Job, Person, Session } from '@fennip/contract';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { connect } from '../src/database/connect.ts';
import { PASSWORDS, browser, startPeopledServer } from './browser.ts';
import type { TestServer } from './testServer.ts';
import { startTestServer } from './testServer.ts';

describe('a server that can be reached from other machines', () => {
  let server: TestServer;
  const newBrowser = () => browser(() => server.address());
  beforeAll(async () => {
    server = await startPeopledServer();
  });
  afterAll(() => server.close());

  it('does not start where nobody has an account', async () => {
    const host = '0.0.0.0';
    const refused = startTestServer({ host });
    await expect(refused).rejects.toThrow(/nobody has an account/);
  });

  it('says nothing to those who are not signed in, but whether it lives', async () => {
    const page = newBrowser();
    for (const [method, path] of [
      ['GET', '/jobs'],
      ['POST', '/jobs'],
      ['GET', '/bin'],
      ['GET', '/people'],
      ['GET', '/metrics'],
      ['GET', '/tiles/x/0/0/0'],
      ['GET', '/openapi.json'],
      ['DELETE', '/bin'],
    ])
      expect([path, (await page.ask(method, path)).status]).toEqual([path, 401]);
    for (const path of ['/health', '/ready', '/session'])
      expect([path, (await page.ask('GET', path)).status]).toEqual([path, 200]);
    expect((await page.ask<Session>('GET', '/session')).answer).toEqual({
      ...{ isNeeded: true, person: null, provider: null },
    });
  });

  it('lets in who knows the password, with a cookie that no script reads and no other site sends', async () => {
    const page = newBrowser();
    expect((await page.signIn('Ben', 'a wagon under sand')).status).toBe(401);
    expect((await page.ask('POST', '/session', { name: 'Nobody', password: 'x' })).status).toBe(401);
    const response = await fetch(`${server.address()}/api/session`, {
      method: 'POST',
      headers: { 'content-type': 'application/json' },
      body: JSON.stringify({ name: 'ben', password: PASSWORDS.Ben }),
    });
    expect(response.status).toBe(200);
    const [set] = response.headers.getSetCookie();
    expect(set).toMatch(/HttpOnly/);
    expect(set).toMatch(/SameSite=Strict/);
    expect(await response.json()).toMatchObject({ person: { name: 'Ben', role: 'works' } });
  });

  it('holds each to what the role allows', async () => {
    const [ada, ben, cleo] = [newBrowser(), newBrowser(), newBrowser()];
    await ada.signIn('Ada');
    await ben.signIn('Ben');
    await cleo.signIn('Cleo');
    const job = (await ben.ask<Job>('POST', '/jobs', { name: 'Ours' })).answer;
    await ben.ask('PUT', `/jobs/${job.id}/people`, { everybody: true, people: [] });
    expect((await cleo.ask<Job[]>('GET', '/jobs')).answer.map(({ id }) => id)).toEqual([job.id]);
    expect((await cleo.ask('PUT', `/jobs/${job.id}/people`, { everybody: false, people: [] })).status).toBe(
      403,
    );
    expect((await cleo.ask('POST', '/jobs', { name: 'Mine' })).status).toBe(403);
    expect((await cleo.ask('DELETE', `/jobs/${job.id}`)).status).toBe(403);
    expect((await ben.ask('DELETE', `/jobs/${job.id}`)).status).toBe(204);
    expect((await cleo.ask<Bin>('GET', '/bin')).answer.jobs).toHaveLength(1);
    for (const page of [ben, cleo])
      for (const [method, path] of [
        ['DELETE', '/bin'],
        ['DELETE', '/bin/'],
        ['DELETE', '/BIN'],
        ['GET', '/people'],
        ['GET', '/People/'],
        ['GET', '/behind'],
        ['GET', '/metrics'],
      ])
        expect([path, (await page.ask(method, path)).status]).toEqual([path, 403]);
    expect((await ada.ask('DELETE', '/bin')).status).toBe(204);
    expect((await ada.ask<Person[]>('GET', '/people')).answer).toHaveLength(3);
    const database = connect(server.config.databaseUrl);
    const audit = await database('audit').orderBy('number').select('person', 'what', 'path');
    expect(audit).toContainEqual({ person: 'Ben', what: 'DELETE', path: `/api/jobs/${job.id}` });
    expect(audit).toContainEqual({ person: 'Ada', what: 'DELETE', path: '/api/bin' });
    expect(audit.some(({ person, path }) => person === 'Cleo' && path !== '/api/session')).toBe(false);
    await database.destroy();
  });

  it('keeps sessions over a restart, and ends them here, everywhere, and with the account', async () => {
    const [here, there] = [newBrowser(), newBrowser()];
    await here.signIn('Ben');
    await there.signIn('Ben');
    await server.restart({ signIn: 'always' });
    for (const page of [here, there]) expect((await page.ask('GET', '/jobs')).status).toBe(200);
    expect((await here.ask('DELETE', '/session')).status).toBe(204);
    expect([(await here.ask('GET', '/jobs')).status, (await there.ask('GET', '/jobs')).status]).toEqual([
      401, 200,
    ]);
    await here.signIn('Ben');
    expect((await there.ask('DELETE', '/session/everywhere')).status).toBe(204);
    expect((await here.ask('GET', '/jobs')).status).toBe(401);
  });

  it('takes in who was invited, once, and keeps the last who runs the place', async () => {
    const ada = newBrowser();
    await ada.signIn('Ada');
    const invited = await ada.ask<{ token: string }>('POST', '/people/invitations', {
      name: 'Dora',
      role: 'works',
    });
    expect(invited.status).toBe(201);
    const path = `/invitations/${invited.answer.token}`;
    const dora = newBrowser();
    expect((await dora.ask('POST', path, { password: 'too short' })).status).toBe(400);
    expect((await dora.ask<Session>('POST', path, { password: 'quarry at low water' })).answer).toMatchObject(
      {
        person: { name: 'Dora', role: 'works' },
      },
    );
    expect((await dora.ask('GET', '/jobs')).status).toBe(200);
    expect((await newBrowser().ask('POST', path, { password: 'quarry at low water' })).status).toBe(404);
    const people = (await ada.ask<Person[]>('GET', '/people')).answer;
    const idOf = (name: string): string => people.find((person) => person.name === name)?.id ?? '';
    expect((await ada.ask('DELETE', `/people/${idOf('Dora')}`)).status).toBe(204);
    expect((await dora.ask('GET', '/jobs')).status).toBe(401);
    expect((await ada.ask('DELETE', `/people/${idOf('Ada')}`)).status).toBe(403);
  });

  it('does not let anybody guess on and on', async () => {
    const page = newBrowser();
    const statuses: number[] = [];
    for (let k = 0; k < 14; k++) statuses.push((await page.signIn('Ada', `guess number ${k}`)).status);
    expect(statuses.at(-1)).toBe(429);
    // Nor one who guesses right after that.
    expect((await page.signIn('Ada')).status).toBe(429);
  });
});

describe('a server on its own machine', () => {
  it('asks nobody who they are', async () => {
    const server = await startTestServer();
    const page = browser(() => server.address());
    expect((await page.ask<Session>('GET', '/session')).answer).toEqual({
      ...{ isNeeded: false, person: null, provider: null },
    });
    expect((await page.ask('GET', '/jobs')).status).toBe(200);
    expect((await page.ask('GET', '/people')).status).toBe(404);
    expect(page.cookie).toBe('');
    await server.close();
  });
});
