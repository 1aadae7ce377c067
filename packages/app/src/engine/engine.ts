import type { Remote } from 'comlink';
import { wrap } from 'comlink';
import type { EngineApi } from './worker.ts';

let remote: Remote<EngineApi> | null = null;

/** The worker in which all computation on pixels runs. */
export function engine(): Remote<EngineApi> {
  remote ??= wrap<EngineApi>(
    new Worker(new URL('./worker.ts', import.meta.url), { type: 'module', name: 'engine' }),
  );
  return remote;
}
