import type { EndpointName } from '@fennip/contract';
import { ENDPOINTS, bodySchemaOf, openApiDocument } from '@fennip/contract';
import { escapedXml } from '@fennip/files';
import { Router } from 'express';

function row(name: EndpointName): string {
  const { method, path, does } = ENDPOINTS[name];
  const body = bodySchemaOf(name);
  const sent = body
    ? `<details><summary>what is sent</summary><pre>${escapedXml(JSON.stringify(body, null, 2))}</pre></details>`
    : '';
  return `<tr id="${name}"><td>${method}</td><td><code>/api${escapedXml(path)}</code></td><td>${escapedXml(does)}${sent}</td></tr>`;
}

/** The interface as a page that a person can read. */
const page = (): string => `<!doctype html>
<html lang="en"><meta charset="utf-8"><title>Fennip: what the server can be asked</title>
<style>
body { font: 15px/1.45 sans-serif; margin: 2em auto; max-width: 70em; color: #222; background: #fff; }
td { padding: 0.35em 1em 0.35em 0; vertical-align: top; border-top: 1px solid #ccc; }
pre { white-space: pre-wrap; font-size: 12px; }
</style>
<h1>What the server can be asked</h1>
<p>The same as a document for programs: <a href="/api/openapi.json">openapi.json</a> (OpenAPI 3.1).
Mistakes are answered as problem documents (RFC 9457). A program that changes something says that it is no page of another
site by a header <code>X-Requested-By</code> with its name.</p>
<table>${(Object.keys(ENDPOINTS) as EndpointName[]).map(row).join('\n')}</table></html>
`;

/** Describes the interface: to people at `/api`, to programs at `/api/openapi.json`. */
export function describeRoutes(): Router {
  const router = Router();
  router.get('/', (_request, response) => {
    response.set('Content-Security-Policy', "default-src 'none'; style-src 'unsafe-inline'");
    response.type('html').send(page());
  });
  router.get('/openapi.json', (_request, response) => {
    response.json(openApiDocument());
  });
  return router;
}
