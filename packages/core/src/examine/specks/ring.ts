/** Where the ring is looked at: four pairs of opposite points, in whole pixels from the core. */
export interface Ring {
  readonly straight: number;
  readonly slanted: number;
}
