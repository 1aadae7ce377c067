/** How much a picture's own share of faults counts: what comes in handfuls tells little of its share. */
export interface OwnShare {
  /** 0 to 1 of the log-odds; the rest is the usual share's. */
  readonly counts: number;
  /** The usual share of faults among the candidates, above 0 and below 1. */
  readonly usual: number;
}

/** What comes by the hundred tells its share by itself. */
export const BY_ITSELF: OwnShare = { counts: 1, usual: 0.5 };
