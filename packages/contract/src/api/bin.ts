interface Binned {
  readonly id: string;
  readonly name: string;
  /** ISO 8601. */
  readonly binnedAt: string;
}

/** A job that lies in the bin. */
export interface BinnedJob extends Binned {
  readonly pictures: number;
}

/** A picture that lies in the bin, of a job that does not. */
export interface BinnedPicture extends Binned {
  readonly jobId: string;
  readonly job: string;
}

/** What was taken away and can be put back. */
export interface Bin {
  /** After so many days it goes for good. */
  readonly days: number;
  readonly jobs: readonly BinnedJob[];
  readonly pictures: readonly BinnedPicture[];
}
