/** From how much the finder has learned for the later pictures of a job. */
export interface JobLearning {
  /** Pictures on which something was dismissed or marked by hand. */
  readonly pictures: number;
  /** How many faults were dismissed or marked there. */
  readonly decisions: number;
}
