/** Something that is asked for and cannot be given, with a sentence for the restorer. */
export class Refusal extends Error {
  override readonly name = 'Refusal';
  constructor(
    readonly status: 400 | 403 | 404 | 409 | 411 | 413 | 422,
    readonly title: string,
    sentence: string,
  ) {
    super(sentence);
  }
}

export const notFound = (what: string): Refusal =>
  new Refusal(404, 'Not found', `There is no such ${what}. It may have been removed.`);
