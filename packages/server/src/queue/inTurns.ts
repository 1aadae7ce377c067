/** Begins at most so many pieces of work at a time, the others as these end, in the order they came in. */
export function inTurns(most: number): <T>(work: () => Promise<T>) => Promise<T> {
  const waiting: (() => void)[] = [];
  let underWay = 0;
  return async (work) => {
    if (underWay >= most) await new Promise<void>((begin) => waiting.push(begin));
    else underWay++;
    try {
      return await work();
    } finally {
      // Whoever waits takes this one's place.
      const next = waiting.shift();
      if (next) next();
      else underWay--;
    }
  };
}
