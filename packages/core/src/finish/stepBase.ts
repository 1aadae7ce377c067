/** What every step of the finish has. */
export interface StepBase {
  readonly id: string;
  /** A step that is off stays in the recipe and changes nothing. */
  readonly on: boolean;
}

/** What every step that changes values has. */
export interface FinishBase extends StepBase {
  /** How much of it shows, 0 to 1. */
  readonly share: number;
  /** The zone that it is bounded by, by id; all of the picture where it is missing. Guards do not bound the finish. */
  readonly zone?: string;
}

/** What every step that frames has: it does so to all of the picture, or not at all. */
export interface FramingBase extends StepBase {
  readonly share: 1;
}
