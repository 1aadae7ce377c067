import { createPinia, setActivePinia } from 'pinia';
import { vi } from 'vitest';
import { SilentWorker } from './silentWorker.ts';
import { StandInServer } from './standInServer.ts';

/** A page that has just been entered, with nobody who paints, and a server whose answers are given. */
export function openPage(): StandInServer {
  vi.stubGlobal('Worker', SilentWorker);
  setActivePinia(createPinia());
  return new StandInServer();
}
