/** A number that differs from mend to mend but not from run to run. */
export const seedOf = (id: string): number => {
  let seed = 2166136261;
  for (const letter of id) seed = Math.imul(seed ^ (letter.codePointAt(0) ?? 0), 16777619);
  return seed >>> 0;
};
