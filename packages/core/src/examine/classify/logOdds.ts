/** The logarithm of the odds of a probability above 0 and below 1. */
export const logOdds = (probability: number): number => Math.log(probability / (1 - probability));
