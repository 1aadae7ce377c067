/** The sentence that says what went wrong, of anything that was thrown. */
export const sentenceOf = (error: unknown): string =>
  error instanceof Error ? error.message : String(error);
