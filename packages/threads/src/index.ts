export * from './startPool.ts';
