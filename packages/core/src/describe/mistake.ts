/** What is wrong with a document, beyond what the range of a field says. */
export interface Mistake {
  /** The field, by its path in what was described. */
  readonly place: string;
  /** What it must be. */
  readonly reason: string;
}
