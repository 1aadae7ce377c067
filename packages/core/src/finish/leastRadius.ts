/** A blur of less than this is none: standard deviation in pixels. */
export const LEAST_RADIUS = 0.12;
