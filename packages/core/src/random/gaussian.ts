/** A standard normal number from a uniform source (Box and Muller 1958). */
export function gaussian(uniform: () => number): number {
  return Math.sqrt(-2 * Math.log(1 - uniform())) * Math.cos(2 * Math.PI * uniform());
}

/** Draws what {@link gaussian} draws, and gives 0: the numbers after it are the same. */
export function skipGaussian(uniform: () => number): 0 {
  uniform();
  uniform();
  return 0;
}
