export { readConfig } from './config.ts';
export type { Config } from './config.ts';
export { startServer } from './startServer.ts';
export type { RunningServer } from './startServer.ts';
export { startWorker } from './startWorker.ts';
export type { RunningWorker } from './startWorker.ts';
export { startThreads } from './work/threads.ts';
