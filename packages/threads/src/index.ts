export * from './startPool.ts';
export * from './tasks.ts';
export * from './startProcesses.ts';
