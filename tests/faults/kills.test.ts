import { mulberry } from '@fennip/core/random';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { Application } from '../e2e/application.ts';
import { startApplication } from '../e2e/application.ts';
import { times } from './extent.ts';
import { smallPicture } from './pictures.ts';
import type { Restorer } from './restorer.ts';
import { createRestorer } from './restorer.ts';

const pause = (ms: number): Promise<void> => new Promise((resolve) => setTimeout(resolve, ms));

const editsOf = (restorers: readonly Restorer[]): number =>
  restorers.reduce((sum, { edits }) => sum + edits, 0);

describe('what the server said yes to', () => {
  let application: Application;
  let files: Buffer[];
  beforeAll(async () => {
    application = await startApplication({ database: 'own' });
    files = await Promise.all([1, 2, 3, 4, 5].map((seed) => smallPicture(seed)));
  });
  afterAll(() => application.close());

  async function underFire(
    seed: number,
    fire: (chance: () => number, restorers: readonly Restorer[]) => Promise<void>,
  ): Promise<Restorer[]> {
    const chance = mulberry(seed);
    const restorers = [1, 2, 3].map((k) => createRestorer(application, files, mulberry(seed + k)));
    const working = restorers.map((restorer) => restorer.work());
    await fire(chance, restorers);
    for (const restorer of restorers) restorer.stop();
    await Promise.all(working);
    return restorers;
  }

  async function expectNoLoss(restorers: readonly Restorer[]): Promise<void> {
    for (const restorer of restorers) expect(await restorer.losses()).toEqual([]);
    // Somebody did work.
    const edits = editsOf(restorers);
    expect(edits).toBeGreaterThan(10);
    console.warn(`${edits} edits were taken, none is lost`);
  }

  it('is there after kills of the server at any moment', async () => {
    const restorers = await underFire(11, async (chance, working) => {
      for (let kill = 0; kill < times(1, 100); kill++) {
        // A server that has just started is slow: a kill that comes before any edit hits nothing.
        for (let k = 0; k < times(600, 50) && editsOf(working) < times(8, 3) * (kill + 1); k++)
          await pause(100);
        await pause(800 * chance());
        await application.killServer();
        await application.startServer();
      }
      await pause(500);
    });
    await expectNoLoss(restorers);
  });

  it('is there after deaths of the database, and the server stays up', async () => {
    const pid = application.serverPid;
    const restorers = await underFire(23, async (chance, working) => {
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
    await expectNoLoss(restorers);
  });
});
