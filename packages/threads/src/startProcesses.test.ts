import { afterAll, describe, expect, it } from 'vitest';
import { startTaskProcesses } from './startProcesses.ts';
import type { processTasks } from './testing/process.ts';

const BOUNDS = { mostMs: 20_000, mostBytes: 400e6 };

describe('processes that carry out tasks', () => {
  const { run, close } = startTaskProcesses<typeof processTasks>(
    new URL('./testing/process.ts', import.meta.url),
    2,
  );
  afterAll(close);

  it('answer each call with its own outcome, however many there are', async () => {
    const calls = Array.from({ length: 30 }, (_, k) => run('add', { a: k, b: 1000 }, BOUNDS));
    expect(await Promise.all(calls)).toEqual(Array.from({ length: 30 }, (_, k) => k + 1000));
  });

  it('say what they are at, before they are done', async () => {
    const heard: number[] = [];
    expect(await run('count', { to: 4 }, BOUNDS, (n) => heard.push(n))).toBe('counted');
    expect(heard).toEqual([1, 2, 3, 4]);
  });

  it('pass an error on with its message, and stay', async () => {
    await expect(run('fail', { reason: 'no such level' }, BOUNDS)).rejects.toThrow('no such level');
    expect(await run('add', { a: 1, b: 2 }, BOUNDS)).toBe(3);
  });

  it.each([
    ['die', 'ended by itself', BOUNDS],
    ['hang', 'time', { ...BOUNDS, mostMs: 1500 }],
    ['hoard', 'memory', BOUNDS],
  ] as const)('end alone where a task makes them %s', async (task, reason, bounds) => {
    const beside = run('add', { a: 20, b: 3 }, BOUNDS);
    await expect(run(task, undefined as never, bounds)).rejects.toMatchObject({ reason });
    expect(await beside).toBe(23);
    // Those that wait are done by the next ones.
    const calls = Array.from({ length: 6 }, (_, k) => run('add', { a: k, b: 1 }, BOUNDS));
    expect(await Promise.all(calls)).toEqual([1, 2, 3, 4, 5, 6]);
  });
});
