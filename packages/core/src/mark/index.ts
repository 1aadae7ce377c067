export type { MarkTarget } from './measureMark.ts';
export { markReads, measureMark } from './measureMark.ts';
