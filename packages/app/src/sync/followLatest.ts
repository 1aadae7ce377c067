/**
 * A function that has the newest value worked on: while one is being worked on, of those that come only the last is taken up.
 * What it returns ends when nothing newer is left.
 *
 * @param read the value as it is now
 */
export function followLatest<T>(read: () => T, work: (value: T) => Promise<unknown>): () => Promise<void> {
  let running: Promise<void> | null = null;
  async function run(): Promise<void> {
    try {
      let value: T;
      do {
        value = read();
        await work(value);
      } while (read() !== value);
    } finally {
      running = null;
    }
  }
  return () => (running ??= run());
}
