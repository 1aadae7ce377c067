/**
 * The least confidence that a sensitivity asks for: 0 takes only what is all but certain, 1 takes every doubt,
 * the middle takes what is more likely a fault than not.
 *
 * @param sensitivity 0 to 1
 * @returns a confidence of 0 to 1
 */
export function leastConfidence(sensitivity: number): number {
  return 0.98 - 0.96 * sensitivity;
}

/**
 * The sensitivity that asks for this least confidence: {@link leastConfidence} the other way round.
 *
 * @param confidence 0 to 1
 * @returns 0 to 1
 */
export const sensitivityFor = (confidence: number): number => (0.98 - confidence) / 0.96;
