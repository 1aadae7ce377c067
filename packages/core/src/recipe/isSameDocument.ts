/** True if two documents hold the same. */
export const isSameDocument = (a: unknown, b: unknown): boolean =>
  a === b || JSON.stringify(a) === JSON.stringify(b);
