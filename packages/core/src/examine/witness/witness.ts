/**
 * What a net says of each pixel of half the resolution, in this order, as log-odds but for the radius: how likely the centre of
 * a dark and of a bright speck lies there, the logarithm of its radius in pixels of the picture, and how likely the pixel lies
 * on a dark speck, a bright one, or a line.
 */
export const WITNESS_MAPS = [
  'darkCentre',
  'brightCentre',
  'logRadius',
  'darkDisc',
  'brightDisc',
  'line',
] as const;
export type WitnessMap = (typeof WITNESS_MAPS)[number];

/** Planes that a net looks at: red, green and blue from -1 to 1, and log luma against its surroundings. */
export const WITNESS_PLANES = 4;
/** Sides of a window are multiples of this, in pixels. */
export const WITNESS_STEP = 16;

/**
 * A net that was trained to see faults, as whoever has one runs it: from a window of planes to maps of half its sides. The
 * finders work without one, and find less.
 *
 * @param planes of `WITNESS_PLANES` x height x width, see `witnessInput`
 * @returns `WITNESS_MAPS` x height / 2 x width / 2
 */
export type Witness = (planes: Float32Array, width: number, height: number) => Promise<Float32Array>;
