/** How many times a difference is strengthened, on the table and in the proof. */
export const DIFFERENCE_GAIN = 6;
