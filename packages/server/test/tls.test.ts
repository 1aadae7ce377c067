import { execFileSync } from 'node:child_process';
import { mkdtempSync, readFileSync, rmSync } from 'node:fs';
import type { IncomingHttpHeaders } from 'node:http';
import { request as plainRequest } from 'node:http';
import { request as tlsRequest } from 'node:https';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { PASSWORDS, startPeopledServer } from './browser.ts';
import type { TestServer } from './testServer.ts';

interface Answer {
  readonly status: number;
  readonly headers: IncomingHttpHeaders;
}

/** Signs Ada in. @param more headers that a proxy adds */
function signIn(
  address: string,
  certificate: string | null,
  more: Record<string, string> = {},
): Promise<Answer> {
  const url = new URL('/api/session', address);
  const body = JSON.stringify({ name: 'Ada', password: PASSWORDS.Ada });
  const options = {
    ...{ method: 'POST', port: url.port, host: url.hostname, path: url.pathname },
    headers: { 'content-type': 'application/json', 'x-requested-by': 'test', ...more },
  };
  return new Promise((resolve, reject) => {
    const sent = certificate
      ? tlsRequest({ ...options, ca: certificate, servername: 'localhost' })
      : plainRequest(options);
    sent.on('response', (response) => {
      response.resume();
      resolve({ status: response.statusCode ?? 0, headers: response.headers });
    });
    sent.on('error', reject);
    sent.end(body);
  });
}

const cookieOf = ({ headers }: Answer): string => headers['set-cookie']?.join('\n') ?? '';

describe('a server that speaks TLS', () => {
  let folder: string;
  let server: TestServer;
  const [key, certificate] = ['key.pem', 'certificate.pem'].map((name) => () => join(folder, name));
  beforeAll(async () => {
    folder = mkdtempSync(join(tmpdir(), 'fennip-tls-'));
    execFileSync(
      'openssl',
      [
        ...['req', '-x509', '-newkey', 'ec', '-pkeyopt', 'ec_paramgen_curve:P-256', '-nodes', '-days', '2'],
        ...['-subj', '/CN=localhost', '-addext', 'subjectAltName=DNS:localhost,IP:127.0.0.1'],
        ...['-keyout', key(), '-out', certificate()],
      ],
      { stdio: 'ignore' },
    );
    server = await startPeopledServer();
    await server.restart({
      ...{ signIn: 'always', isSecure: true },
      tls: { key: key(), certificate: certificate() },
    });
  });
  afterAll(async () => {
    await server.close();
    rmSync(folder, { recursive: true });
  });

  it('answers by its own certificate, says that it stays so, and gives cookies for TLS alone', async () => {
    expect(server.address()).toMatch(/^https:/);
    const answer = await signIn(server.address(), readFileSync(certificate(), 'utf8'));
    expect(answer.status).toBe(200);
    expect(answer.headers['strict-transport-security']).toMatch(/max-age=\d{7,}/);
    expect(cookieOf(answer)).toMatch(/^fennip=.*Secure/);
  });

  it('answers nothing to whoever does not speak it', async () => {
    await expect(signIn(server.address(), null)).rejects.toThrow();
  });
});

describe('a server behind a proxy that speaks TLS', () => {
  let server: TestServer;
  beforeAll(async () => {
    server = await startPeopledServer();
  });
  afterAll(() => server.close());

  it('takes the word of the proxy that is named, and of no other', async () => {
    const forwarded = { 'x-forwarded-proto': 'https', 'x-forwarded-for': '203.0.113.9' };
    await server.restart({ signIn: 'always', isSecure: true, trustedProxy: '127.0.0.1' });
    const over = await signIn(server.address(), null, forwarded);
    expect(over.status).toBe(200);
    expect(cookieOf(over)).toMatch(/Secure/);
    expect(over.headers['strict-transport-security']).toMatch(/max-age/);
    // Past the proxy nobody gets a cookie that would travel in the open.
    expect(cookieOf(await signIn(server.address(), null))).toBe('');
    await server.restart({ signIn: 'always', isSecure: true, trustedProxy: '192.0.2.1' });
    expect(cookieOf(await signIn(server.address(), null, forwarded))).toBe('');
  });
});
