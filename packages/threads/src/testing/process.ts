import { serveProcess } from '../processTasks.ts';

/** Held so that it is not let go. */
const held: Buffer[] = [];

export const processTasks = {
  add: ({ a, b }: { a: number; b: number }): number => a + b,
  count: ({ to }: { to: number }, say: (n: number) => void): string => {
    for (let n = 1; n <= to; n++) say(n);
    return 'counted';
  },
  fail: ({ reason }: { reason: string }): never => {
    throw new Error(reason);
  },
  die: () => process.kill(process.pid, 'SIGKILL'),
  hang: (): Promise<never> => new Promise(() => setInterval(() => undefined, 1000)),
  hoard: async (): Promise<never> => {
    for (;;) {
      held.push(Buffer.alloc(20e6, 1));
      await new Promise((resolve) => setTimeout(resolve, 5));
    }
  },
};

serveProcess(processTasks);
