import { randomBytes } from 'node:crypto';
import { mkdtemp, rm } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import type { JobEvent, Picture } from '@fennip/contract';
import pg from 'pg';
import pino from 'pino';
import type { Config, RunningServer } from '../src/index.ts';
import { startServer } from '../src/index.ts';

/** A real server on a database and a store of its own. */
export interface TestServer {
  readonly config: Config;
  address(): string;
  /** Stops the server and starts another one on the same database and store. */
  restart(changed?: Partial<Config>): Promise<void>;
  close(): Promise<void>;
  get<T>(path: string): Promise<T>;
  post<T>(path: string, body: unknown): Promise<T>;
  patch<T>(path: string, body: unknown): Promise<T>;
  put<T>(path: string, body: unknown): Promise<T>;
  bytes(path: string): Promise<Buffer>;
  /** The status of an answer and its sentence. */
  refusal(path: string, init: RequestInit): Promise<{ status: number; detail: string; type: string | null }>;
  /** @param place in the job; the next where it is left out */
  add(jobId: string, name: string, bytes: Uint8Array, place?: number): Promise<Picture>;
  /** Waits until a picture is as it should be. */
  until(jobId: string, pictureId: string, is: (picture: Picture) => boolean): Promise<Picture>;
  /** All events of a job from now on. */
  follow(jobId: string): Promise<{ events: JobEvent[]; stop: () => void }>;
}

const adminUrl = (): string => {
  const url = process.env['FENNIP_TEST_DATABASE_URL'];
  if (!url) throw new Error('FENNIP_TEST_DATABASE_URL is not set: run ./fennip test');
  return url;
};

async function asAdmin(sql: string): Promise<void> {
  const client = new pg.Client({ connectionString: adminUrl() });
  await client.connect();
  await client.query(sql).finally(() => client.end());
}

const log = pino({ level: 'silent' });

export async function startTestServer(more: Partial<Config> = {}): Promise<TestServer> {
  const name = `fennip_test_${randomBytes(6).toString('hex')}`;
  await asAdmin(`create database ${name}`);
  const storeFolder = await mkdtemp(join(tmpdir(), 'fennip-store-'));
  const databaseUrl = new URL(adminUrl());
  databaseUrl.pathname = name;
  const config: Config = {
    host: '127.0.0.1',
    port: 0,
    databaseUrl: databaseUrl.href,
    storeFolder,
    pageFolder: storeFolder,
    hostNames: [],
    runs: 'here',
    mostPixels: 150e6,
    mostBytes: 2e9,
    keptBytes: 1e6,
    binDays: 30,
    signIn: 'where it is reached',
    tls: null,
    trustedProxy: null,
    isSecure: false,
    openId: null,
    metricsToken: null,
    ...more,
  };
  const clear = async (): Promise<void> => {
    await rm(storeFolder, { recursive: true });
    await asAdmin(`drop database ${name} with (force)`);
  };
  let server: RunningServer;
  try {
    server = await startServer(config, log);
  } catch (error) {
    await clear();
    throw error;
  }
  const api = (path: string): string => `${server.address}/api${path}`;

  async function answer<T>(response: Response): Promise<T> {
    if (!response.ok) throw new Error(`${response.url}: ${response.status} ${await response.text()}`);
    return (await response.json()) as T;
  }
  const get = async <T>(path: string): Promise<T> => answer<T>(await fetch(api(path)));
  const send = (body: unknown, method = 'POST'): RequestInit => ({
    method,
    headers: { 'content-type': 'application/json' },
    body: JSON.stringify(body),
  });

  return {
    config,
    address: () => server.address,
    restart: async (changed = {}) => {
      await server.stop();
      server = await startServer({ ...config, ...changed }, log);
    },
    close: async () => {
      await server.stop();
      await clear();
    },
    get,
    post: async (path, body) => answer(await fetch(api(path), send(body))),
    patch: async (path, body) => answer(await fetch(api(path), send(body, 'PATCH'))),
    put: async (path, body) => answer(await fetch(api(path), send(body, 'PUT'))),
    bytes: async (path) => {
      const response = await fetch(api(path));
      if (!response.ok) throw new Error(`${path}: ${response.status}`);
      return Buffer.from(await response.arrayBuffer());
    },
    refusal: async (path, init) => {
      const response = await fetch(api(path), init);
      const problem = (await response.json()) as { detail: string };
      return { status: response.status, detail: problem.detail, type: response.headers.get('content-type') };
    },
    add: async (jobId, fileName, bytes, place) =>
      answer(
        await fetch(
          api(
            `/jobs/${jobId}/pictures?name=${encodeURIComponent(fileName)}${place ? `&place=${place}` : ''}`,
          ),
          {
            method: 'POST',
            headers: { 'content-type': 'application/octet-stream' },
            body: Buffer.from(bytes),
          },
        ),
      ),
    until: async (jobId, pictureId, is) => {
      for (let i = 0; i < 300; i++) {
        const { pictures } = await get<{ pictures: Picture[] }>(`/jobs/${jobId}`);
        const picture = pictures.find(({ id }) => id === pictureId);
        if (picture && is(picture)) return picture;
        await new Promise((resolve) => setTimeout(resolve, 100));
      }
      throw new Error('the picture did not come to be as it should');
    },
    follow: async (jobId) => {
      const control = new AbortController();
      const response = await fetch(api(`/jobs/${jobId}/events`), { signal: control.signal });
      const events: JobEvent[] = [];
      const read = async (): Promise<void> => {
        const decoder = new TextDecoder();
        let rest = '';
        for await (const chunk of response.body as unknown as AsyncIterable<Uint8Array>) {
          const lines = (rest + decoder.decode(chunk, { stream: true })).split('\n');
          rest = lines.pop() ?? '';
          for (const line of lines)
            if (line.startsWith('data: ')) events.push(JSON.parse(line.slice(6)) as JobEvent);
        }
      };
      read().catch(() => undefined);
      return { events, stop: () => control.abort() };
    },
  };
}
