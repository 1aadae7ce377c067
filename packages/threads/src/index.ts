export * from './startPool.ts';
export * from './tasks.ts';
