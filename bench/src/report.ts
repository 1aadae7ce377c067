/** One line of a printed table. */
export type Row = readonly (string | number)[];

const cell = (value: string | number): string => (typeof value === 'number' ? value.toFixed(2) : value);

/** Prints a table with its columns under one another, numbers to two places. */
export function printTable(title: string, head: readonly string[], rows: readonly Row[]): void {
  const lines = [head, ...rows.map((row) => row.map(cell))];
  const widths = head.map((_, column) => Math.max(...lines.map((line) => line[column].length)));
  console.log(`\n${title}`);
  for (const line of lines)
    console.log(
      line.map((text, i) => (i === 0 ? text.padEnd(widths[i]) : text.padStart(widths[i]))).join('  '),
    );
}

export function median(values: readonly number[]): number {
  const sorted = [...values].sort((a, b) => a - b);
  const middle = sorted.length >> 1;
  return sorted.length % 2 ? sorted[middle] : (sorted[middle - 1] + sorted[middle]) / 2;
}

/** The median time of a run in milliseconds, after one that warms up. */
export async function timed(runs: number, work: () => unknown): Promise<number> {
  await work();
  const times: number[] = [];
  for (let i = 0; i < runs; i++) {
    const start = performance.now();
    await work();
    times.push(performance.now() - start);
  }
  return median(times);
}

/**
 * The median times of several in milliseconds, each run once in every round after one that warms up: where the machine is
 * slow for a while, it is so for all.
 */
export async function timedInTurns(rounds: number, works: readonly (() => unknown)[]): Promise<number[]> {
  const times = works.map((): number[] => []);
  for (let round = 0; round <= rounds; round++)
    for (const [k, work] of works.entries()) {
      const start = performance.now();
      await work();
      if (round > 0) times[k].push(performance.now() - start);
    }
  return times.map(median);
}
