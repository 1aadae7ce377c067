import type { Person, Session } from '@fennip/contract';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { Config } from '../src/index.ts';
import { browser, startPeopledServer } from './browser.ts';
import type { SmallProvider } from './smallProvider.ts';
import { startSmallProvider } from './smallProvider.ts';
import type { TestServer } from './testServer.ts';

let provider: SmallProvider;
let server: TestServer;
let config: Partial<Config>;
beforeAll(async () => {
  provider = await startSmallProvider();
  config = {
    signIn: 'always',
    openId: {
      ...{ issuer: provider.issuer, clientId: provider.client.id, clientSecret: provider.client.secret },
      ...{ name: 'The society', newcomers: null },
    },
  };
  server = await startPeopledServer(config);
});
afterAll(async () => {
  await server.close();
  await provider.close();
});

const cookiesOf = (response: Response): string[] =>
  response.headers.getSetCookie().map((set) => set.split(';')[0]);

/** Goes to the provider and back, as a browser does. @returns where it ended, and who is signed in there */
async function wayThrough(query = '', tamper = (back: URL): URL => back) {
  const follow = (address: string, cookie = '') =>
    fetch(address, { redirect: 'manual', headers: { cookie } });
  const out = await follow(`${server.address()}/api/session/openid${query}`);
  const flow = cookiesOf(out).find((set) => set.startsWith('fennip-openid=')) ?? '';
  const there = await follow(out.headers.get('location') ?? '');
  const home = await follow(tamper(new URL(there.headers.get('location') ?? '')).href, flow);
  const cookie = cookiesOf(home).find((set) => set.startsWith('fennip=')) ?? '';
  const who = await fetch(`${server.address()}/api/session`, { headers: { cookie } });
  const { person } = (await who.json()) as Session;
  return { ended: home.headers.get('location'), person, out, flow };
}

describe('signing in with a provider', () => {
  it('is offered by its name', async () => {
    const page = browser(() => server.address());
    expect((await page.ask<Session>('GET', '/session')).answer).toMatchObject({ provider: 'The society' });
  });

  it('lets nobody in whom nobody invited', async () => {
    provider.visitor = { sub: '17', name: 'Somebody' };
    expect(await wayThrough()).toMatchObject({ ended: '/sign-in?failed=invited', person: null });
  });

  it('makes an account of an invitation, and knows it again', async () => {
    const ada = browser(() => server.address());
    await ada.signIn('Ada');
    const invited = await ada.ask<{ token: string }>('POST', '/people/invitations', {
      ...{ name: 'Elsbeth', role: 'sees' },
    });
    provider.visitor = { sub: '18', name: 'E. of the society' };
    const first = await wayThrough(`?invitation=${invited.answer.token}`);
    expect(first).toMatchObject({ ended: '/', person: { name: 'Elsbeth', role: 'sees' } });
    expect(await wayThrough()).toMatchObject({ ended: '/', person: { name: 'Elsbeth' } });
    provider.visitor = { sub: '19', name: 'Elsbeth' };
    expect(await wayThrough(`?invitation=${invited.answer.token}`)).toMatchObject({ person: null });
    // No password opens it.
    expect((await ada.ask('POST', '/session', { name: 'Elsbeth', password: '' })).status).toBe(401);
  });

  it('takes newcomers in where it is set so, but nobody under the name of another', async () => {
    const openId = config.openId && { ...config.openId, newcomers: 'works' as const };
    await server.restart({ ...config, ...(openId ? { openId } : {}) });
    provider.visitor = { sub: '20', name: 'Finn' };
    expect((await wayThrough()).person).toMatchObject({ name: 'Finn', role: 'works' });
    provider.visitor = { sub: '21', name: 'ada' };
    expect(await wayThrough()).toMatchObject({ ended: '/sign-in?failed=invited', person: null });
    await server.restart(config);
    const ada = browser(() => server.address());
    await ada.signIn('Ada');
    const people = (await ada.ask<Person[]>('GET', '/people')).answer.map(({ name }) => name);
    expect(people).toEqual(['Ada', 'Ben', 'Cleo', 'Elsbeth', 'Finn']);
  });

  it.each(['nonce', 'audience', 'key', 'issuer'] as const)(
    'refuses a token with a wrong %s',
    async (wrong) => {
      provider.visitor = { sub: '18', name: 'Elsbeth', wrong };
      expect(await wayThrough()).toMatchObject({ ended: '/sign-in?failed=provider', person: null });
    },
  );

  it('refuses an answer to another flow, and one that comes a second time or to another browser', async () => {
    provider.visitor = { sub: '18', name: 'Elsbeth' };
    const forged = await wayThrough('', (back) => {
      back.searchParams.set('state', 'of another flow');
      return back;
    });
    expect(forged).toMatchObject({ ended: '/sign-in?failed=provider', person: null });
    let address = '';
    const { flow } = await wayThrough('', (back) => {
      address = back.href;
      return back;
    });
    for (const cookie of [flow, '']) {
      const again = await fetch(address, { redirect: 'manual', headers: { cookie } });
      expect(again.headers.get('location')).toBe('/sign-in?failed=provider');
    }
  });

  it('keeps the flow where only the same browser comes back with it, and no script reads it', async () => {
    const { out } = await wayThrough();
    const set = out.headers.getSetCookie().find((one) => one.startsWith('fennip-openid=')) ?? '';
    expect(set).toMatch(/HttpOnly/);
    expect(set).toMatch(/SameSite=Lax/);
    expect(set).toMatch(/Path=\/api\/session\/openid/);
    expect(new URL(out.headers.get('location') ?? '').searchParams.get('code_challenge_method')).toBe('S256');
  });

  it('is begun so often from one address and no more', async () => {
    await server.restart(config);
    const statuses: number[] = [];
    for (let k = 0; k < 102; k++)
      statuses.push((await fetch(`${server.address()}/api/session/openid`, { redirect: 'manual' })).status);
    expect([statuses[0], statuses.at(-1)]).toEqual([302, 429]);
  });

  it('leads back to the page where the provider does not answer', async () => {
    const openId = config.openId && { ...config.openId, issuer: 'http://127.0.0.1:9' };
    await server.restart({ ...config, ...(openId ? { openId } : {}) });
    const out = await fetch(`${server.address()}/api/session/openid`, { redirect: 'manual' });
    expect(out.headers.get('location')).toBe('/sign-in?failed=provider');
    await server.restart(config);
  });
});

describe('a scraper of figures', () => {
  it('needs no account where it has the token, and is let to nothing else', async () => {
    await server.restart({ ...config, metricsToken: 'for the scraper alone' });
    const ask = async (path: string, token: string): Promise<number> =>
      (await fetch(`${server.address()}/api${path}`, { headers: { authorization: `Bearer ${token}` } }))
        .status;
    expect(await ask('/metrics', 'for the scraper alone')).toBe(200);
    expect(await ask('/metrics', 'for the scraper')).toBe(401);
    expect(await ask('/behind', 'for the scraper alone')).toBe(401);
    await server.restart(config);
    expect(await ask('/metrics', 'for the scraper alone')).toBe(401);
  });
});
