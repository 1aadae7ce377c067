import { randomBytes } from 'node:crypto';
import pg from 'pg';
import { describe, expect, it } from 'vitest';
import { connect } from '../src/database/connect.ts';
import { migrate } from '../src/database/migrations.ts';

describe('the schema', () => {
  it('is brought up to date by several servers at once, and after one that died on the way', async () => {
    const adminUrl = process.env['FENNIP_TEST_DATABASE_URL'];
    if (!adminUrl) throw new Error('FENNIP_TEST_DATABASE_URL is not set: run ./fennip test');
    const admin = new pg.Client({ connectionString: adminUrl });
    await admin.connect();
    const url = new URL(adminUrl);
    url.pathname = `fennip_schema_${randomBytes(5).toString('hex')}`;
    await admin.query(`create database ${url.pathname.slice(1)}`);
    const databases = [1, 2, 3].map(() => connect(url.href));
    await Promise.all(databases.map(migrate));
    // What a server that was killed in between leaves behind.
    await databases[0]('knex_migrations_lock').update({ is_locked: 1 });
    await migrate(databases[1]);
    expect(await databases[2]('pictures').count()).toEqual([{ count: '0' }]);
    for (const database of databases) await database.destroy();
    await admin.query(`drop database ${url.pathname.slice(1)} with (force)`);
    await admin.end();
  });
});
