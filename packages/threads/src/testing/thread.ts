import { serveTasks } from '../tasks.ts';

/** What the threads of the test can be asked to do. */
export const tasks = {
  add: ({ a, b }: { readonly a: number; readonly b: number }): number => a + b,
  later: async ({ text }: { readonly text: string }): Promise<string> => {
    await new Promise((resolve) => setTimeout(resolve, 5));
    return text.toUpperCase();
  },
  fail: ({ reason }: { readonly reason: string }): never => {
    throw new RangeError(reason);
  },
  fill: ({ shared, value }: { readonly shared: SharedArrayBuffer; readonly value: number }): void => {
    new Uint8Array(shared).fill(value);
  },
};

export default serveTasks(tasks);
