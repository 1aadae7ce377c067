// What the compiled loops (packages/core/wasm) and their callers both know of how things lie in the memory. This one file is
// compiled into both, so it holds nothing but plain numbers.

/** Pixels between two places at which a line is measured, and the fewest places that a line is measured at. */
export const COURSE_EVERY = 1.5;
export const COURSE_FEWEST = 6;
/** Columns of 64-bit floats that are filled while a line is measured. */
export const COURSE_COLUMNS = 12;
/** The channels that a line is compared in at most. */
const CHANNELS = 5;

/** What is measured of a line, as 64-bit floats. */
export enum Course {
  /** How many places it was measured at; below {@link COURSE_FEWEST} the rest is not written. */
  STATIONS,
  LENGTH,
  STRENGTH,
  /** What a fifth of its strengths lie below. */
  WEAKEST,
  DEPTH,
  DEPTH_SPREAD,
  /** Mean depth against the nearer of its two sides. */
  SHALLOWER,
  /** How far the sides lie apart. */
  STEP,
  TURNING,
  WIDTH,
  WIDTH_SPREAD,
  SIDES_SPREAD,
  SIDES_STEP,
  SIDES,
  CORE,
  CORE_SPREAD,
  /** From here on for each channel the sum of the core and that of both sides. */
  COLOURS,
}
export const COURSE_NUMBERS = Course.COLOURS + 2 * CHANNELS;

/** Directions in which a place and a rim are looked around. */
export const DIRECTIONS = 16;

/** What is measured of the surroundings of a place, as 64-bit floats. */
export enum Around {
  RING,
  CORE,
  SPREAD,
  SLOPE,
  SHALLOWEST,
  WEAKEST,
  EVEN,
  OUT_OF_ROUND,
  CORE_TEXTURE,
  RING_TEXTURE,
  RING_BEND,
  /** How many these are. */
  NUMBERS,
}

/** How a disc explains a place, as 64-bit floats. */
export enum Explained {
  TEMPLATE,
  DEPTH,
  BEFORE,
  AFTER,
  CORRELATION,
  OFF_X,
  OFF_Y,
  /** How many these are. */
  NUMBERS,
}

/** The head of a disc template, places in bytes: 32-bit integers, from `ENERGY` on 64-bit floats. */
export enum Template {
  COUNT = 0,
  FIRST = 4,
  SECOND = 8,
  STEPS = 12,
  ENERGY = 16,
  ROOT = 24,
  BYTES = 32,
}

/** The record of a point on a ridge, places in bytes: 32-bit floats, cosine and sine 64-bit floats. */
export enum RidgePoint {
  X = 0,
  Y = 4,
  /** Curvature across over the usual one round about, above 0 where the line is darker. */
  STRENGTH = 8,
  /** 0 to pi. */
  ANGLE = 12,
  COS = 16,
  SIN = 24,
  BYTES = 32,
}

/** Values that digits of keys have while they are put in order. */
export const DIGITS = 2048;
