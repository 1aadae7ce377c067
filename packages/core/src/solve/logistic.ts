/** The probability that has these log-odds, 0 to 1. */
export const logistic = (logOdds: number): number => 1 / (1 + Math.exp(-logOdds));
