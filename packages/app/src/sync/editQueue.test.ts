import fc from 'fast-check';
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import { AnswerError } from '../api/http.ts';
import type { EditQueue } from './editQueue.ts';
import { RETRY_MS, createEditQueue } from './editQueue.ts';

/** A line to a server that answers each attempt as it is told to: carried out, away, or refused. */
function lineThat(answers: (attempt: number) => 'ok' | 'away' | 'refused') {
  const waiting: number[] = [];
  const carried: number[] = [];
  const troubles: number[] = [];
  const outlived: boolean[] = [];
  let attempt = 0;
  let under = 0;
  const queue: EditQueue = createEditQueue<number>({
    next: () => waiting.at(0),
    async carryOut(task, outlivesPage) {
      expect(++under).toBe(1);
      const answer = answers(attempt++);
      await Promise.resolve();
      under--;
      if (answer !== 'ok') throw new AnswerError(answer === 'away' ? 503 : 409, answer);
      carried.push(task);
      outlived.push(outlivesPage);
      waiting.shift();
    },
    onTrouble: ({ status }) => troubles.push(status),
    async onRefused() {
      waiting.length = 0;
      await Promise.resolve();
    },
  });
  const add = (task: number, seen?: Promise<unknown>): void => {
    waiting.push(task);
    queue.start(seen);
  };
  return { queue, add, waiting, carried, troubles, outlived };
}

describe('a queue of edits', () => {
  beforeEach(() => void vi.useFakeTimers());
  afterEach(() => void vi.useRealTimers());

  it('carries all out in the order they came, one at a time, through any outage', async () => {
    await fc.assert(
      fc.asyncProperty(
        fc.array(fc.boolean(), { maxLength: 12 }),
        fc.array(fc.integer({ min: 0, max: 3000 }), { minLength: 1, maxLength: 12 }),
        async (outages, pauses) => {
          const line = lineThat((attempt) => (outages[attempt] ? 'away' : 'ok'));
          for (const [task, ms] of pauses.entries()) {
            line.add(task);
            await vi.advanceTimersByTimeAsync(ms);
          }
          await vi.advanceTimersByTimeAsync((outages.length + 1) * RETRY_MS);
          await line.queue.idle();
          expect(line.carried).toEqual([...pauses.keys()]);
          expect(line.waiting).toEqual([]);
        },
      ),
      { numRuns: 40 },
    );
  });

  it('gives up what waits when it is refused, and goes on with what comes later', async () => {
    const line = lineThat((attempt) => (attempt === 1 ? 'refused' : 'ok'));
    for (const task of [0, 1, 2]) line.add(task);
    await vi.runAllTimersAsync();
    expect(line.carried).toEqual([0]);
    expect(line.troubles).toEqual([409]);
    line.add(3);
    await vi.runAllTimersAsync();
    expect(line.carried).toEqual([0, 3]);
  });

  it('waits until an edit is seen, but not for long', async () => {
    const line = lineThat(() => 'ok');
    let show = (): void => undefined;
    line.add(0, new Promise<void>((resolve) => (show = resolve)));
    await vi.advanceTimersByTimeAsync(20);
    expect(line.carried).toEqual([]);
    show();
    await vi.advanceTimersByTimeAsync(0);
    expect(line.carried).toEqual([0]);
    line.add(1, new Promise(() => undefined));
    await vi.advanceTimersByTimeAsync(1000);
    expect(line.carried).toEqual([0, 1]);
  });

  it('sends an edit that could not be shown all the same', async () => {
    const line = lineThat(() => 'ok');
    line.add(0, Promise.reject(new Error('the painter is gone')));
    await vi.runAllTimersAsync();
    expect(line.carried).toEqual([0]);
  });

  it('sends at once, and in a way that outlives the page, when the page is left', async () => {
    const line = lineThat(() => 'ok');
    line.add(0, new Promise(() => undefined));
    line.queue.hurry();
    await vi.advanceTimersByTimeAsync(0);
    expect(line.carried).toEqual([0]);
    expect(line.outlived).toEqual([true]);
    line.add(1);
    await vi.runAllTimersAsync();
    expect(line.outlived).toEqual([true, false]);
  });
});
