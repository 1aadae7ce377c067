import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { Application } from '../e2e/application.ts';
import { startApplication } from '../e2e/application.ts';
import { times } from './extent.ts';
import { editsOf, expectNoLossUnder, pause } from './underFire.ts';

describe('what the server said yes to', () => {
  let application: Application;
  beforeAll(async () => {
    application = await startApplication({ database: 'own' });
  });
  afterAll(() => application.close());

  it('is there after deaths of the database, and the server stays up', async () => {
    const pid = application.serverPid;
    await expectNoLossUnder(application, 23, async (chance, working) => {
      for (let k = 0; k < 600 && editsOf(working) < 8; k++) await pause(100);
      for (let death = 0; death < times(1, 10); death++) {
        await pause(800 + 1500 * chance());
        application.killDatabase();
        // Once for a minute: whatever waits for it must wait so long.
        await pause(death === 9 ? 60_000 : 1000 + 2000 * chance());
        application.startDatabase();
      }
      await pause(3000);
    });
    expect([application.isUp, application.serverPid]).toEqual([true, pid]);
  });
});
