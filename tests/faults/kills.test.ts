import { afterAll, beforeAll, describe, it } from 'vitest';
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

  it('is there after kills of the server at any moment', () =>
    expectNoLossUnder(application, 11, async (chance, working) => {
      for (let kill = 0; kill < times(1, 100); kill++) {
        // A server that has just started is slow: a kill that comes before any edit hits nothing.
        for (let k = 0; k < times(600, 50) && editsOf(working) < times(8, 3) * (kill + 1); k++)
          await pause(100);
        await pause(800 * chance());
        await application.killServer();
        await application.startServer();
      }
      await pause(500);
    }));
});
