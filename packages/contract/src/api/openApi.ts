import type { EndpointName } from './endpoints.ts';
import { ENDPOINTS } from './endpoints.ts';
import { bodySchemaOf } from './requestBodies.ts';

const nameIn = (path: string): string[] => [...path.matchAll(/:(\w+)/g)].map(([, name]) => name);

function operation(name: EndpointName): object {
  const { path, does, status, sends, query } = ENDPOINTS[name];
  const body = bodySchemaOf(name);
  const at = (where: 'path' | 'query') => (parameter: string) => ({
    ...{ name: parameter, in: where, required: where === 'path' },
    schema: { type: 'string' },
  });
  const content = sends === '' ? {} : { content: { [sends]: {} } };
  return {
    operationId: name,
    summary: does,
    parameters: [...nameIn(path).map(at('path')), ...query.map(at('query'))],
    ...(body ? { requestBody: { required: true, content: { 'application/json': { schema: body } } } } : {}),
    responses: {
      [status]: { description: does, ...content },
      default: {
        description: 'A problem (RFC 9457) with a sentence that says what is wrong.',
        content: { 'application/problem+json': {} },
      },
    },
  };
}

/** The server's interface as an OpenAPI 3.1 document; what is sent along is described by the schemas that check it. */
export function openApiDocument(): object {
  const paths: Record<string, Record<string, object>> = {};
  for (const name of Object.keys(ENDPOINTS) as EndpointName[]) {
    const endpoint = ENDPOINTS[name];
    const path = endpoint.path.replace(/:(\w+)/g, '{$1}');
    paths[path] = { ...paths[path], [endpoint.method.toLowerCase()]: operation(name) };
  }
  return {
    openapi: '3.1.0',
    info: { title: 'Fennip', version: '1', description: 'What the page asks the server.' },
    servers: [{ url: '/api' }],
    paths,
  };
}
