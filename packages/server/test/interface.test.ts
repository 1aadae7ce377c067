import type { EndpointName } from '@fennip/contract';
import { ENDPOINTS, addressOf, bodySchemaOf, openApiDocument } from '@fennip/contract';
import { Validator } from '@seriousme/openapi-schema-validator';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { TestServer } from './testServer.ts';
import { startTestServer } from './testServer.ts';

describe('the interface of the server', () => {
  let server: TestServer;
  beforeAll(async () => {
    server = await startTestServer();
  });
  afterAll(() => server.close());

  it('answers each endpoint of the table, and none with "no such address"', async () => {
    const nobody = '00000000-0000-4000-8000-000000000000';
    const params = {
      ...{ job: nobody, picture: nobody, run: nobody, chart: nobody, routine: nobody, delivery: nobody },
      ...{
        person: nobody,
        token: 'none',
        fault: 'f1',
        number: '1',
        page: '1',
        pyramid: 'x',
        level: '0',
        column: '0',
        row: '0',
      },
    };
    const unknown = await server.refusal('/nothing-here', {});
    for (const name of Object.keys(ENDPOINTS) as (keyof typeof ENDPOINTS)[]) {
      const { method } = ENDPOINTS[name];
      const response = await fetch(server.address() + addressOf(name, params), { method });
      const text = await response.text();
      expect(response.status, name).toBeLessThan(500);
      expect(text, name).not.toContain(unknown.detail);
    }
  });

  it('refuses at each endpoint that takes something what is not as its schema says', async () => {
    const params = { token: 'x', job: 'x', picture: 'x', run: 'x', chart: 'x', routine: 'x', number: '1' };
    const taking = (Object.keys(ENDPOINTS) as EndpointName[]).filter((name) => bodySchemaOf(name) !== null);
    expect(taking.length).toBeGreaterThan(10);
    for (const name of taking) {
      const { method } = ENDPOINTS[name];
      const address = addressOf(name as 'edit', { ...params, picture: 'x' });
      const response = await fetch(server.address() + address, {
        method,
        headers: { 'content-type': 'application/json' },
        body: JSON.stringify({ nonsense: true }),
      });
      expect(response.status, name).toBe(400);
      expect(response.headers.get('content-type'), name).toContain('application/problem+json');
    }
  });

  it('is described by a document that OpenAPI’s own schema accepts, with each endpoint in it', async () => {
    const document = await (await fetch(`${server.address()}/api/openapi.json`)).json();
    expect(document).toEqual(JSON.parse(JSON.stringify(openApiDocument())));
    // OpenAPI 3.1's published JSON Schema, as @seriousme/openapi-schema-validator carries it.
    const { valid, errors } = await new Validator().validate(document);
    expect(errors).toBeUndefined();
    expect(valid).toBe(true);
    const operations = Object.values(document.paths as Record<string, Record<string, unknown>>);
    expect(operations.flatMap((path) => Object.keys(path))).toHaveLength(Object.keys(ENDPOINTS).length);
  });

  it('is described by a page for people', async () => {
    const response = await fetch(`${server.address()}/api`);
    const text = await response.text();
    expect(response.headers.get('content-type')).toContain('text/html');
    for (const { does } of Object.values(ENDPOINTS)) expect(text).toContain(does);
  });
});
