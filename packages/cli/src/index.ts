export { main } from './main.ts';
export type { MendThreads } from './threads/mendInThreads.ts';
export { startMendThreads } from './threads/mendInThreads.ts';
