export { readConfig } from './context/config.ts';
export type { Config } from './context/config.ts';
export { connect } from './database/connect.ts';
export { addPerson } from './people/people.ts';
export { startServer } from './start/startServer.ts';
export type { RunningServer } from './start/startServer.ts';
export { startWorker } from './start/startWorker.ts';
export type { RunningWorker } from './start/startWorker.ts';
export { startThreads } from './threads/threads.ts';
