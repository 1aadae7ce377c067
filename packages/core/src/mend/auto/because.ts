/** What decides for a method. */
export const BECAUSE = [
  /** Enough light came through: the picture's own detail is undone. */
  'light comes through',
  /** A line with light in its shoulders: they are undone, its middle is closed from them. */
  'light in the shoulders',
  /** A stain: its smooth tint is taken out, the structure stays. */
  'smooth tint',
  /** A veil was found, but too little light came through to keep the detail. */
  'too little light',
  /** No shadow or lit veil explains what is seen. */
  'no veil',
  /** What is there is no soft disc: undoing the nearest one would leave a rim. */
  'would leave a rim',
  /** A thin line, closed from both sides. */
  'thin line',
  /** A small hard spot, closed from all of its sides. */
  'small spot',
  /** Not a round spot: nothing to undo. */
  'no disc',
  /** Edges of the subject run into a loss: it is rebuilt with them led through it. */
  'edges go on',
  /** A wide line: of what was tried on known ground beside it this came nearest. */
  'trial beside it',
  /** Sources were tried and none gave a good mend. */
  'no source fits',
  /** The restorer asked for this method. */
  'asked for',
] as const;
export type Because = (typeof BECAUSE)[number];
