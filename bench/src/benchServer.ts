import { mkdtemp, rm } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { readConfig, startServer } from '@fennip/server';
import pg from 'pg';
import pino from 'pino';

/**
 * Does something with a server of its own, on a database and in a folder that go when it is done.
 *
 * @param work called with the address, the folder of the store, and the environment that workers beside the server need
 * @param runs who works on runs
 */
export async function onBenchServer(
  work: (address: string, folder: string, env: Readonly<Record<string, string>>) => Promise<void>,
  runs: 'here' | 'by-workers' = 'here',
): Promise<void> {
  const adminUrl = process.env['FENNIP_DATABASE_URL'] ?? '';
  const admin = new pg.Client({ connectionString: adminUrl });
  await admin.connect();
  await admin.query('drop database if exists fennip_bench with (force)');
  await admin.query('create database fennip_bench');
  const url = new URL(adminUrl);
  url.pathname = 'fennip_bench';
  const store = await mkdtemp(join(tmpdir(), 'fennip-bench-'));
  const env = { FENNIP_DATABASE_URL: url.href, FENNIP_STORE: store, FENNIP_RUNS: runs };
  const server = await startServer({ ...readConfig(env), port: 0 }, pino({ level: 'fatal' }));
  await work(server.address, store, env);
  await server.stop();
  await admin.query('drop database fennip_bench with (force)');
  await admin.end();
  await rm(store, { recursive: true });
}
