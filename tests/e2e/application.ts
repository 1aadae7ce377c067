import type { ChildProcess } from 'node:child_process';
import { execFileSync, spawn } from 'node:child_process';
import { randomBytes } from 'node:crypto';
import { mkdtemp, rm } from 'node:fs/promises';
import { createServer } from 'node:net';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import pg from 'pg';

const ROOT = fileURLToPath(new URL('../..', import.meta.url));

/** The application as it is started for a restorer: the real server process on a real database. */
export interface Application {
  readonly address: string;
  readonly databaseUrl: string;
  /** The folder that its pictures are kept in. */
  readonly storeFolder: string;
  /** The process of the server; another one after it was started again. */
  readonly serverPid: number;
  /** True if the server that was started last is still up. */
  readonly isUp: boolean;
  restartServer(): Promise<void>;
  /** Ends the server as a loss of power does. */
  killServer(): Promise<void>;
  /** Starts a server that was killed, or ended by itself. */
  startServer(): Promise<void>;
  /** @throws Error where the database is shared with other tests */
  restartDatabase(): Promise<void>;
  /** Ends the database as a loss of power does. @throws Error where it is shared with other tests */
  killDatabase(): void;
  /** Starts a database that was killed. */
  startDatabase(): void;
  /** Makes an account, by the command for it. */
  addAccount(name: string, role: string, password: string): void;
  close(): Promise<void>;
}

export interface ApplicationOptions {
  /** `own` may be restarted and killed. */
  readonly database: 'shared' | 'own';
  /** Where the pictures are kept; a new folder where none is named. */
  readonly storeFolder?: string;
  /** More settings of the server, read whenever it starts. */
  readonly settings?: Readonly<Record<string, string>>;
}

/** A database server: the one that all tests share, or one that may be stopped. */
interface DatabaseServer {
  readonly url: string;
  restart(): void;
  kill(): void;
  up(): void;
  close(): void;
}

function sharedDatabase(): DatabaseServer {
  const url = process.env['FENNIP_TEST_DATABASE_URL'];
  if (!url) throw new Error('FENNIP_TEST_DATABASE_URL is not set: run ./fennip test');
  const restart = (): never => {
    throw new Error('other tests are at this database');
  };
  return { url, restart, kill: restart, up: restart, close: () => undefined };
}

function ownDatabase(): DatabaseServer {
  const state = join(tmpdir(), `fennip-own-database-${randomBytes(5).toString('hex')}`);
  const run = (command: 'start' | 'restart' | 'kill' | 'up' | 'stop'): string =>
    execFileSync('bash', ['tools/own-postgres.sh', command], {
      cwd: ROOT,
      env: { ...process.env, FENNIP_STATE: state },
      stdio: ['ignore', 'pipe', 'ignore'],
      encoding: 'utf8',
    }).trim();
  return {
    url: run('start'),
    restart: () => void run('restart'),
    kill: () => void run('kill'),
    up: () => void run('up'),
    close: () => void run('stop'),
  };
}

function freePort(): Promise<number> {
  return new Promise((resolve) => {
    const probe = createServer().listen(0, '127.0.0.1', () => {
      const address = probe.address();
      probe.close(() => resolve(typeof address === 'object' && address ? address.port : 0));
    });
  });
}

async function asAdmin(connectionString: string, sql: string): Promise<void> {
  const client = new pg.Client({ connectionString });
  await client.connect();
  await client.query(sql).finally(() => client.end());
}

async function answers(address: string): Promise<void> {
  for (let i = 0; i < 1000; i++) {
    const isUp = await fetch(`${address}/api/ready`).then(
      ({ ok }) => ok,
      () => false,
    );
    if (isUp) return;
    await new Promise((resolve) => setTimeout(resolve, 150));
  }
  throw new Error(`nothing answers at ${address}`);
}

export async function startApplication({
  database,
  storeFolder,
  settings = {},
}: ApplicationOptions): Promise<Application> {
  const databases = database === 'own' ? ownDatabase() : sharedDatabase();
  const name = `fennip_browser_${randomBytes(5).toString('hex')}`;
  await asAdmin(databases.url, `create database ${name}`);
  const url = new URL(databases.url);
  url.pathname = name;
  const store = storeFolder ?? (await mkdtemp(join(tmpdir(), 'fennip-browser-')));
  const port = await freePort();
  const address = `http://127.0.0.1:${port}`;
  let server: ChildProcess;

  async function start(): Promise<void> {
    server = spawn('node', ['packages/threads/bin/run.mjs', 'packages/server/src/main.ts'], {
      cwd: ROOT,
      env: {
        ...process.env,
        FENNIP_DATABASE_URL: url.href,
        FENNIP_STORE: store,
        FENNIP_PORT: String(port),
        FENNIP_LOG: 'fatal',
        ...settings,
      },
      stdio: ['ignore', 'ignore', 'inherit'],
    });
    await answers(address);
  }

  function end(signal: 'SIGTERM' | 'SIGKILL'): Promise<void> {
    return new Promise((resolve) => {
      if (server.exitCode !== null || server.signalCode !== null) resolve();
      server.once('exit', () => resolve());
      server.kill(signal);
    });
  }

  await start();
  return {
    address,
    databaseUrl: url.href,
    storeFolder: store,
    get serverPid() {
      return server.pid ?? 0;
    },
    get isUp() {
      return server.exitCode === null && server.signalCode === null;
    },
    restartServer: async () => {
      await end('SIGTERM');
      await start();
    },
    killServer: () => end('SIGKILL'),
    startServer: start,
    restartDatabase: async () => {
      databases.restart();
      await answers(address);
    },
    addAccount: (who, role, password) => {
      const program = ['packages/threads/bin/run.mjs', 'packages/server/src/upkeep.ts'];
      execFileSync('node', [...program, 'account', 'add', who, '--role', role], {
        cwd: ROOT,
        env: { ...process.env, FENNIP_DATABASE_URL: url.href, FENNIP_STORE: store },
        input: `${password}\n`,
      });
    },
    killDatabase: databases.kill,
    startDatabase: databases.up,
    close: async () => {
      await end('SIGTERM');
      if (!storeFolder) await rm(store, { recursive: true });
      await asAdmin(databases.url, `drop database ${name} with (force)`);
      databases.close();
    },
  };
}
