import type { Job, Picture } from '@fennip/contract';
import { ENDPOINTS } from '@fennip/contract';
import { createRaster } from '@fennip/core/raster';
import { encodePicture } from '@fennip/files';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { TestServer } from './testServer.ts';
import { startTestServer } from './testServer.ts';

let server: TestServer;
let job: Job;
let picture: Picture;
beforeAll(async () => {
  server = await startTestServer();
  job = await server.post<Job>('/jobs', { name: 'Besieged' });
  const file = await encodePicture(createRaster(80, 60, 3, 8), {}, { format: 'png', depth: 8, quality: 100 });
  picture = await server.add(job.id, 'grey.png', file);
  await server.until(job.id, picture.id, ({ state }) => state === 'ready');
});
afterAll(() => server.close());

const JSON_TYPE = 'application/json';
const NOBODY = '00000000-0000-4000-8000-000000000000';

/** What an attacker, a broken script or a restart in between may send, with the statuses that answer it. */
const REQUESTS: readonly {
  readonly name: string;
  readonly path: () => string;
  readonly method?: string;
  readonly type?: string;
  readonly body?: () => string;
  readonly statuses: readonly number[];
}[] = [
  ...['NUL \\u0000', 'half a pair \\ud83d', 'the other half \\ude00'].map((text) => ({
    name: `a name with ${text.slice(0, 12)}`,
    path: () => '/jobs',
    body: () => `{"name": "${text}"}`,
    statuses: [400],
  })),
  ...['%ff', '%', '%c3%28', '%00', '..%2f..%2fetc%2fpasswd'].map((part) => ({
    name: `${part} in a path`,
    path: () => `/pictures/${part}`,
    method: 'GET',
    statuses: [400, 404],
  })),
  ...[1e18, 2 ** 31, -(2 ** 31) - 1].map((revision) => ({
    name: `a revision of ${revision}`,
    path: () => `/pictures/${picture.id}/undo`,
    body: () => JSON.stringify({ revision }),
    statuses: [400, 409],
  })),
  {
    name: 'an unknown charset',
    path: () => '/jobs',
    type: 'application/json; charset=klingon',
    body: () => '{"name": "a"}',
    statuses: [400],
  },
  {
    name: 'an unknown encoding of a body',
    path: () => '/jobs',
    body: () => '{"name": "a"',
    statuses: [400],
  },
  {
    name: 'lists in lists in lists',
    path: () => `/pictures/${picture.id}/edits`,
    body: () => '['.repeat(4e6),
    statuses: [400],
  },
  {
    name: 'millions of lists',
    path: () => `/pictures/${picture.id}/edits`,
    body: () => `[${'[],'.repeat(3e6)}[]]`,
    statuses: [400],
  },
  {
    name: 'more than an endpoint takes',
    path: () => '/jobs',
    body: () => JSON.stringify({ name: 'a'.repeat(2e6) }),
    statuses: [413],
  },
  {
    name: 'a decision about a fault that is not there',
    path: () => `/pictures/${picture.id}/edits`,
    body: () =>
      JSON.stringify({
        revision: 0,
        edit: { words: 'Dismissed', steps: [{ op: 'judge', fault: 'f999999', as: 'dismissed' }] },
      }),
    statuses: [404],
  },
  ...['jobs', 'pictures', 'runs', 'charts', 'deliveries', 'routines'].flatMap((things) =>
    ["1' or 1=1 --", '1', NOBODY, 'a'.repeat(300)].map((id) => ({
      name: `${things}/${id.slice(0, 12)}`,
      path: () => `/${things}/${encodeURIComponent(id)}`,
      method: 'GET',
      statuses: [404],
    })),
  ),
  ...['-1', '1e9', '99999999999999999999', 'NaN', '0x1'].flatMap((number) => [
    {
      name: `tile ${number}`,
      path: () => `/tiles/${picture.pyramid}/${number}/0/0`,
      method: 'GET',
      statuses: [404],
    },
    {
      name: `place ${number}`,
      path: () => `/jobs/${job.id}/pictures?name=a.png&place=${number}`,
      type: 'application/octet-stream',
      body: () => 'no picture',
      statuses: [400, 422],
    },
  ]),
  {
    name: 'a name of a file that cannot be kept',
    path: () => `/jobs/${job.id}/pictures?name=a%00b.png`,
    type: 'application/octet-stream',
    body: () => 'no picture',
    statuses: [400, 422],
  },
  ...[
    'null',
    '7',
    '"text"',
    '[]',
    '{}',
    '{"name": null}',
    '{"name": {}}',
    '{"__proto__": {"name": "a"}}',
  ].map((body) => ({ name: `the body ${body}`, path: () => '/jobs', body: () => body, statuses: [400] })),
  { name: 'an asset that is not there', path: () => '/../assets/nothing.js', method: 'GET', statuses: [404] },
];

/** What may stand where an id is expected. */
const HOSTILE_PARTS = ['%00', '%ff', "1'%20or%201=1", '..%2f..', '%ed%a0%80', `${'9'.repeat(40)}`, NOBODY];
const HOSTILE_BODIES = ['[[[[', '{"revision": 1e308}', '{"__proto__": 1, "name": "\\u0000"}'];
let asked = 0;

describe('what nobody should send', () => {
  it.each(REQUESTS)('$name is answered with a sentence', async ({ path, method, type, body, statuses }) => {
    const response = await fetch(`${server.address()}/api${path()}`, {
      method: method ?? 'POST',
      ...(body ? { body: body(), headers: { 'content-type': type ?? JSON_TYPE } } : {}),
    });
    const problem = (await response.json()) as { detail: string };
    expect([statuses.includes(response.status), response.status]).toEqual([true, response.status]);
    expect(problem.detail).toMatch(/\w+ \w+/);
    expect(problem.detail).not.toMatch(/\/(work|tmp|home|var)\//);
  });

  it.each(Object.entries(ENDPOINTS))(
    'is refused or answered at %s, whatever stands in its address and its body',
    async (_name, { method, path }) => {
      // What empties or ends things is not asked with what it would take.
      const parts = path.includes(':') ? HOSTILE_PARTS : [];
      const bodies = method === 'GET' ? [undefined] : HOSTILE_BODIES;
      for (const part of parts)
        for (const body of bodies) {
          const address = `${server.address()}/api${path.replace(/:\w+/g, part)}`;
          const response = await fetch(address, {
            ...{ method, redirect: 'manual' },
            ...(body === undefined ? {} : { body, headers: { 'content-type': JSON_TYPE } }),
          });
          asked++;
          const isFit = response.status >= 400 && response.status < 500;
          expect([part, body?.slice(0, 20), isFit || response.status]).toEqual([
            part,
            body?.slice(0, 20),
            true,
          ]);
          await response.arrayBuffer();
        }
    },
  );

  it('was sent a good many times', () => {
    expect(asked + REQUESTS.length).toBeGreaterThan(180);
  });

  it('keeps nothing from being answered afterwards', async () => {
    expect(await server.get('/ready')).toMatchObject({ ready: true });
    expect(await server.get<Job[]>('/jobs')).toHaveLength(1);
  });
});
