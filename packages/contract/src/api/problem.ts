/** An error as RFC 9457 lays it out; `detail` is a sentence for the restorer. */
export interface Problem {
  readonly type: string;
  readonly title: string;
  readonly status: number;
  readonly detail: string;
}
